#pragma once
// Tool: the command-line tool as a library. Your own main gets every verb for your own games:
//
//     int main(int argc, char** argv) {
//         arvek::tool::Tool tool("harbour");
//         tool.add<Harbour>("harbour", "Loading ships before the tide")
//             .parameter("piers", &Harbour::Parameters::piers, 1, 9, "piers in the harbour");
//         return tool.run(argc, argv);
//     }
//
// Harbour is a TextGame (game/text.hpp), constructible from its nested type Parameters, a struct of plain members whose
// initialisers are the defaults; or, without parameters, default-constructible.

#include <iosfwd>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/tool/detail/typed_game.hpp"
#include "arvek/tool/game_handle.hpp"

namespace arvek::tool {

/// A game on offer; add parameters one after the other.
template <class G>
class OfferedGame final : public GameEntry {
   public:
    using GameEntry::GameEntry;

    /// A whole number from `least` to `most`.
    template <class P>
    OfferedGame& parameter(std::string name, int P::*member, int least, int most, std::string meaning) {
        parameters_.push_back({std::move(name), ParameterKind::WholeNumber, least, most, std::to_string(P{}.*member),
                               std::move(meaning)});
        setters_.push_back([member](P& parameters, int value, const std::string&) { parameters.*member = value; });
        return *this;
    }

    /// Any text, such as the path of a file; whether it is right is for the game's constructor to say.
    template <class P>
    OfferedGame& parameter(std::string name, std::string P::*member, std::string meaning) {
        parameters_.push_back({std::move(name), ParameterKind::Text, 0, 0, P{}.*member, std::move(meaning)});
        setters_.push_back([member](P& parameters, int, const std::string& text) { parameters.*member = text; });
        return *this;
    }

    /// True or false.
    template <class P>
    OfferedGame& parameter(std::string name, bool P::*member, std::string meaning) {
        parameters_.push_back(
            {std::move(name), ParameterKind::TrueOrFalse, 0, 1, P{}.*member ? "true" : "false", std::move(meaning)});
        setters_.push_back([member](P& parameters, int value, const std::string&) { parameters.*member = value != 0; });
        return *this;
    }

    std::unique_ptr<GameHandle> open(const std::vector<std::string>& settings) const override {
        std::vector<Setting> values;
        for (const ParameterInfo& info : parameters_) values.push_back({info.name, info.default_value, info.kind});
        Parameters parameters{};
        for (const std::string& setting : settings) {
            const auto [number, value] = read_setting(setting);
            values[number].value = setting.substr(setting.find('=') + 1);
            setters_[number](parameters, value, values[number].value);
        }
        if constexpr (has_parameters)
            return std::make_unique<detail::TypedHandle<G>>(G(parameters), std::move(values));
        else
            return std::make_unique<detail::TypedHandle<G>>(G(), std::move(values));
    }

   private:
    struct NoParameters {};
    template <class T, class = void>
    struct ParametersOf {
        using type = NoParameters;
    };
    template <class T>
    struct ParametersOf<T, std::void_t<typename T::Parameters>> {
        using type = typename T::Parameters;
    };
    using Parameters = typename ParametersOf<G>::type;
    static constexpr bool has_parameters = !std::is_same_v<Parameters, NoParameters>;

    std::vector<std::function<void(Parameters&, int, const std::string&)>> setters_;
};

/// Where a run of the tool reads and writes.
struct Console {
    std::istream& in;
    std::ostream& out;
    std::ostream& err;
    bool colour = false;        ///< whether `out` may carry colours
    bool line_editing = false;  ///< whether a person types at a terminal; then lines are read from there, not from `in`
    bool reads_standard_input = false;  ///< whether `in` is the process's standard input
    bool shows_progress = false;        ///< whether `err` is a terminal, where a line may be written over
};

class Tool {
   public:
    /// `program` is the name under which messages speak of the tool.
    explicit Tool(std::string program);
    ~Tool();
    Tool(const Tool&) = delete;
    Tool& operator=(const Tool&) = delete;

    /// Offers a game under a name of lower-case letters, digits and underscores, with a line that says what it is.
    template <class G>
    auto& add(std::string name, std::string summary) {
        if constexpr (arvek::detail::game_is_complete<G>() && arvek::detail::text_is_complete<G>()) {
            auto entry = std::make_unique<OfferedGame<G>>(std::move(name), std::move(summary));
            auto& offered = *entry;
            add_entry(std::move(entry));
            return offered;
        } else {
            return *this;
        }
    }

    const std::vector<std::unique_ptr<GameEntry>>& games() const { return games_; }
    const std::string& program() const { return program_; }

    /// Runs one command line. Returns the exit status: 0 done, 1 what was checked or played did not hold, 2 wrong use.
    int run(int argc, const char* const* argv) const;
    /// The same with the arguments after the program's name, on streams of the caller's.
    int run(const std::vector<std::string>& arguments, const Console& console) const;

   private:
    void add_entry(std::unique_ptr<GameEntry> entry);

    std::string program_;
    std::vector<std::unique_ptr<GameEntry>> games_;
};

}  // namespace arvek::tool
