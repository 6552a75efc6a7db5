#pragma once
// Position files: a position with the game and the parameters it belongs to, as TOML.
//
//     game = "lanterns"
//     set = { columns = 3, rows = 3, line = 3 }
//     position = "A.T/.T./... A"
//     note = "Teal threatens a1."

#include <string>
#include <vector>

namespace arvek::tool {

struct PositionFile {
    struct Setting {
        std::string name;
        std::string value;
        std::string place;  ///< "file.toml, line 2, column 9"
    };

    std::string game;  ///< may be empty: any game
    std::vector<Setting> settings;
    std::string position;
    std::string position_place;
};

/// Whether an option's text names a TOML file rather than being a position or a name itself.
bool names_toml_file(const std::string& text);

/// Throws InputError with file, line and column.
PositionFile read_position_file(const std::string& path);

/// One step of a guided tour.
struct TourStep {
    std::string title;
    std::string say;
    std::vector<std::vector<std::string>> run;  ///< command lines, without the program's name
    std::string type;                           ///< what is typed while the commands run
};

/// Reads a tour: `[[step]]` tables with `title`, `say`, `run` and `type`. Throws InputError with file, line and column.
std::vector<TourStep> read_tour(const std::string& path);

}  // namespace arvek::tool
