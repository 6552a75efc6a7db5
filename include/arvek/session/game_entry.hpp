#pragma once
// GameEntry: a game on offer, by name, with its parameters. tool/tool.hpp collects them.

#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <string_view>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/session/session.hpp"

namespace arvek {

/// Files of games in a notation that the game itself reads, such as PGN.
struct GamesNotation {
    std::string ending;  ///< of a file's name: ".pgn"
    /// Every game of a text, from the game's initial position on: its moves as texts, and who won. Throws InputError, in
    /// which `source` is named, for a text that is none.
    std::function<std::vector<GameRecord>(const AnyGame& game, std::string_view text, std::string_view source)> read;
};

/// A game on offer.
class GameEntry {
   public:
    /// Throws InputError for a name other than of lower-case letters, digits and underscores.
    GameEntry(std::string name, std::string summary);
    virtual ~GameEntry() = default;

    const std::string& name() const { return name_; }        ///< lower-case letters, digits and underscores
    const std::string& summary() const { return summary_; }  ///< what it is, in a line
    const std::vector<ParameterInfo>& parameters() const { return parameters_; }  ///< that it can be opened with
    /// What opponents of it can choose by.
    virtual std::span<const ChooserInfo> choosers() const = 0;

    const std::vector<GamesNotation>& notations() const { return notations_; }  ///< of files of its games

    /// The game with `settings` (texts of "name=value") over the defaults. Throws InputError for what is unknown, wrong
    /// or given twice, and whatever the game's constructor throws.
    virtual OpenGame open(const std::vector<std::string>& settings) const = 0;

   protected:
    /// Adds a parameter; its name must be new.
    void add_parameter(ParameterInfo info);
    void add_notation(GamesNotation notation) { notations_.push_back(std::move(notation)); }  ///< adds one
    /// The texts of the values, by parameter, defaults filled in.
    std::vector<Setting> read_settings(const std::vector<std::string>& settings) const;

   private:
    std::vector<ParameterInfo> parameters_;
    std::vector<GamesNotation> notations_;
    std::string name_;
    std::string summary_;
};

/// A game of type G; add parameters and choosers one after the other.
template <class G>
class OfferedGame final : public GameEntry {
   public:
    using GameEntry::GameEntry;

    /// An integer from `least` to `most`.
    template <class P>
    OfferedGame& parameter(std::string name, int P::*member, int least, int most, std::string meaning) {
        return parameter(
            {std::move(name), ParameterKind::Integer, least, most, std::to_string(P{}.*member), std::move(meaning)},
            [member](Parameters& all, const std::string& text) { all.*member = std::stoi(text); });
    }

    /// Any string, such as the path of a file; whether it is right is for the game's constructor to say.
    template <class P>
    OfferedGame& parameter(std::string name, std::string P::*member, std::string meaning) {
        return parameter({std::move(name), ParameterKind::String, 0, 0, P{}.*member, std::move(meaning)},
                         [member](Parameters& all, const std::string& text) { all.*member = text; });
    }

    /// One of several strings. What names no file can be set from a page, too.
    template <class P>
    OfferedGame& parameter(std::string name, std::string P::*member, std::vector<std::string> choices,
                           std::string meaning) {
        ParameterInfo info{std::move(name), ParameterKind::String, 0, 0, P{}.*member, std::move(meaning)};
        info.choices = std::move(choices);
        return parameter(std::move(info), [member](Parameters& all, const std::string& text) { all.*member = text; });
    }

    /// True or false.
    template <class P>
    OfferedGame& parameter(std::string name, bool P::*member, std::string meaning) {
        return parameter(
            {std::move(name), ParameterKind::Boolean, 0, 1, P{}.*member ? "true" : "false", std::move(meaning)},
            [member](Parameters& all, const std::string& text) { all.*member = text == "true"; });
    }

    /// With parameters for which `when(parameters)` is true the game is one of type Other, made of the same parameters and
    /// with the built-in choosers.
    template <class Other, class When>
    OfferedGame& instead(When when) {
        instead_ = [when](const Parameters& parameters, const std::string& name,
                          std::vector<Setting>& values) -> std::optional<OpenGame> {
            if (!when(parameters)) return std::nullopt;
            return OpenGame{name, std::move(values), game_kit(Other{parameters})};
        };
        return *this;
    }

    /// Those that opponents can choose by, in place of what the library has: see opponent/compiled.hpp.
    OfferedGame& choosers(Choosers<G> choosers) {
        choosers_ = std::move(choosers);
        return *this;
    }

    /// A chooser of your own: as Choosers<G>::add().
    template <class Make>
    OfferedGame& chooser(ChooserInfo info, Make make) {
        choosers_.add(std::move(info), std::move(make));
        return *this;
    }

    /// An evaluator of your own: as Choosers<G>::add_evaluator().
    template <class Make>
    OfferedGame& evaluator(std::string name, Make make) {
        choosers_.add_evaluator(std::move(name), std::move(make));
        return *this;
    }

    /// Files of games whose names end so: `read(game, text, source)` gives them, see GamesNotation.
    template <class Read>
    OfferedGame& games_in(std::string ending, Read read) {
        add_notation({std::move(ending), [read](const AnyGame& game, std::string_view text, std::string_view source) {
                          return read(game.get<G>(), text, source);
                      }});
        return *this;
    }

    std::span<const ChooserInfo> choosers() const override { return choosers_.infos(); }

    OpenGame open(const std::vector<std::string>& settings) const override {
        std::vector<Setting> values = read_settings(settings);
        const auto with = [&](const G& game) { return OpenGame{name(), std::move(values), game_kit(game, choosers_)}; };
        if constexpr (has_parameters) {
            Parameters parameters{};
            for (std::size_t i = 0; i < values.size(); ++i) setters_[i](parameters, values[i].value);
            if (instead_)
                if (auto other = instead_(parameters, name(), values)) return std::move(*other);
            return with(G{parameters});
        } else {
            return with(G());
        }
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
    using Setter = std::function<void(Parameters&, const std::string&)>;
    static constexpr bool has_parameters = !std::is_same_v<Parameters, NoParameters>;

    OfferedGame& parameter(ParameterInfo info, Setter setter) {
        add_parameter(std::move(info));
        setters_.push_back(std::move(setter));
        return *this;
    }

    Choosers<G> choosers_ = Choosers<G>::built_in();
    std::vector<Setter> setters_;
    std::function<std::optional<OpenGame>(const Parameters&, const std::string&, std::vector<Setting>&)> instead_;
};

}  // namespace arvek
