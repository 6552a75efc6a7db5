#pragma once
// Temperament: how an opponent weighs the reasons for which moves are suggested.
//
//     Temperament bold{{{"hunger", 0.8, {{"take", 3.0}, {"shelter", 0.5}}}}, {{"take", 1.2}}};
//     bold.factor("take");      // 3 to the power of 0.8, times 1.2
//
// An axis has a value from -1 to 1 and, for some reasons, a pull: how many times as urgent the reason is to somebody at
// 1. At 0 the axis changes nothing; at -1 the reason is as many times less urgent. A side's preferences are plain
// weights of reasons. Where moves are somebody's, an actor may have a value of its own on top of the side's: by its name,
// and dealt by the seed of the game.

#include <cstdint>
#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace arvek {

/// Who acts, to a temperament.
struct Individual {
    std::string_view name{};      ///< the actor's; empty: nobody is told from anybody
    std::uint64_t number = 0;     ///< tells apart those of one name, the same all game long
    std::uint64_t game_seed = 0;  ///< the same all game long, for what is dealt once a game
};

/// A trait, and what it pulls.
struct TemperamentAxis {
    std::string name;                                     ///< what it is called
    double value = 0.0;                                   ///< -1 to 1
    std::vector<std::pair<std::string, double>> pulls{};  ///< by reason; more than 0
    std::vector<std::pair<std::string, double>> of{};     ///< by actor: how much more its value is
    double dealt_least = 0.0;                             ///< what the seed of the game adds for each actor, from this
    double dealt_most = 0.0;                              ///< to this

    /// The value of somebody, -1 to 1.
    double value_of(const Individual& who) const;
    /// pull to the power of value; 1 for a reason without a pull.
    double factor(std::string_view reason, const Individual& who = {}) const;
};

/// How an opponent weighs the reasons for which moves are suggested.
struct Temperament {
    std::vector<TemperamentAxis> axes{};  ///< its traits
    std::vector<std::pair<std::string, double>>
        preferences{};  ///< weights of reasons, 0 or more; 1 where none is given

    /// How much a reason counts besides what the traits say; 1 where nothing is said.
    double preference(std::string_view reason) const;
    /// The product of every axis' factor and the preference.
    double factor(std::string_view reason, const Individual& who = {}) const;
    /// Whether actors differ.
    bool tells_actors_apart() const;
};

/// Throws InputError for a value, a pull or a weight out of range.
void check_temperament(const Temperament& temperament);

namespace detail {

/// "takes the Runner off: 6 x hunger 2.41 = 14.5", with every factor that is not 1.
/// `weight`: of the suggestion itself.
std::string weighed_text(const std::string& note, double urgency, const Temperament& temperament,
                         std::string_view reason, const Individual& who = {}, double weight = 1.0);
/// "3 x target stamina 12 = 36".
std::string feature_text(const std::string& name, double weight, double value);

}  // namespace detail

}  // namespace arvek
