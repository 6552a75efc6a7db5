#include "arvek/rules/temperament.hpp"

#include <algorithm>
#include <cmath>

#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/rules/condition.hpp"

namespace arvek {

double TemperamentAxis::value_of(const Individual& who) const {
    if (who.name.empty()) return value;
    double own = value;
    for (const auto& [actor, more] : of)
        if (actor == who.name) own += more;
    if (dealt_most > dealt_least) {
        const std::uint64_t seed =
            derived_seed(derived_seed(who.game_seed, hash_of_text(name)), hash_of_text(who.name));
        own += dealt_least + Random(derived_seed(seed, who.number)).unit() * (dealt_most - dealt_least);
    } else {
        own += dealt_least;
    }
    return std::clamp(own, -1.0, 1.0);
}

double TemperamentAxis::factor(std::string_view reason, const Individual& who) const {
    for (const auto& [name_of_reason, pull] : pulls)
        if (name_of_reason == reason) return std::pow(pull, value_of(who));
    return 1.0;
}

double Temperament::preference(std::string_view reason) const {
    for (const auto& [name_of_reason, weight] : preferences)
        if (name_of_reason == reason) return weight;
    return 1.0;
}

double Temperament::factor(std::string_view reason, const Individual& who) const {
    double product = preference(reason);
    for (const TemperamentAxis& axis : axes) product *= axis.factor(reason, who);
    return product;
}

bool Temperament::tells_actors_apart() const {
    return std::any_of(axes.begin(), axes.end(), [](const TemperamentAxis& axis) {
        return !axis.of.empty() || axis.dealt_least != 0 || axis.dealt_most != 0;
    });
}

void check_temperament(const Temperament& temperament) {
    for (const TemperamentAxis& axis : temperament.axes) {
        if (!(axis.value >= -1 && axis.value <= 1))
            throw InputError("temperament", axis.name + " = " + number_text(axis.value) + " is out of range",
                             "-1 to 1");
        for (const auto& [actor, more] : axis.of)
            if (!(more >= -2 && more <= 2))
                throw InputError("temperament",
                                 axis.name + " of " + actor + ", " + number_text(more) + ", is out of range",
                                 "-2 to 2");
        if (!(axis.dealt_least >= -2 && axis.dealt_least <= axis.dealt_most && axis.dealt_most <= 2))
            throw InputError("temperament", axis.name + " is dealt out of range",
                             "least and most from -2 to 2, in this order");
        for (const auto& [reason, pull] : axis.pulls)
            if (!(pull > 0 && pull <= 1000))
                throw InputError("temperament",
                                 "a pull of " + number_text(pull) + " on '" + reason + "' is out of range",
                                 "more than 0, at most 1000");
    }
    for (const auto& [reason, weight] : temperament.preferences)
        if (!(weight >= 0 && weight <= 1000))
            throw InputError("temperament",
                             "a weight of " + number_text(weight) + " for '" + reason + "' is out of range",
                             "0 to 1000");
}

namespace detail {

namespace {

std::string rounded(double number) { return number_text(std::round(number * 100) / 100); }

}  // namespace

std::string weighed_text(const std::string& note, double urgency, const Temperament& temperament,
                         std::string_view reason, const Individual& who, double weight) {
    std::string text = note + ": " + rounded(urgency);
    double product = urgency;
    bool several = false;
    if (weight != 1.0) {
        text += " x weight " + rounded(weight);
        product *= weight;
        several = true;
    }
    for (const TemperamentAxis& axis : temperament.axes) {
        const double factor = axis.factor(reason, who);
        if (factor == 1.0) continue;
        text += " x ";
        const double own = axis.value_of(who);
        if (own != axis.value) text += std::string(who.name) + "'s ";
        text += axis.name + " " + rounded(factor);
        product *= factor;
        several = true;
    }
    if (const double preferred = temperament.preference(reason); preferred != 1.0) {
        text += " x preference " + rounded(preferred);
        product *= preferred;
        several = true;
    }
    return several ? text + " = " + rounded(product) : text;
}

std::string feature_text(const std::string& name, double weight, double value) {
    return name + " " + rounded(value) + " x " + rounded(weight) + " = " + rounded(weight * value);
}

}  // namespace detail

}  // namespace arvek
