#pragma once
// Crews for Scuffle: who the hands are, what they carry, and what they can do. See demo/scuffle/ for files of them.

#include <array>
#include <cstdint>
#include <string>
#include <string_view>
#include <vector>

namespace waterway {

enum class Element : std::uint8_t { Rope, Water, Smoke, Song };
inline constexpr std::size_t element_count = 4;

/// What an action lays on its targets.
enum class Condition : std::uint8_t {
    Soaked,  ///< guard is 3 less
    Winded,  ///< each of its actions costs 4 more of the clock
    Braced   ///< guard is 3 more
};
inline constexpr std::size_t condition_count = 3;

enum class TargetKind : std::uint8_t { OneRival, AllRivals, OneMate, Self };

struct Rating {
    int attack = 0;
    int guard = 0;
    bool mends = false;  ///< harm of the element heals
};

struct ScuffleAction {
    std::string name;
    Element element = Element::Rope;
    int power = 0;   ///< 0: it does no harm, whatever the ratings
    int time = 10;   ///< what it costs of the clock at a quickness of 10
    int hits = 100;  ///< percent
    TargetKind target = TargetKind::OneRival;
    bool lays = false;  ///< whether it lays `condition` for `turns` of the target's turns
    Condition condition = Condition::Soaked;
    int turns = 0;
};

struct Hand {
    std::string name;
    int stamina = 1;  ///< at the start, and the most it can have
    int quickness = 10;
    std::array<Rating, element_count> ratings{};  ///< its own and its gear's together
    std::vector<ScuffleAction> actions;           ///< its own, then its gear's

    const Rating& rating(Element element) const { return ratings[static_cast<std::size_t>(element)]; }
};

struct Crew {
    std::string name;
    std::vector<Hand> hands;  ///< one to five
};

/// Reads a crew from TOML. Throws arvek::InputError, which names `source`, the line and the column.
Crew read_crew(std::string_view text, std::string_view source);
/// The same from a file. Throws arvek::InputError too when it cannot be read.
Crew read_crew_file(const std::string& path);

/// "rope", "soaked", "one rival" and so on, as in the files.
const char* name_of(Element element);
const char* name_of(Condition condition);
const char* name_of(TargetKind target);

}  // namespace waterway
