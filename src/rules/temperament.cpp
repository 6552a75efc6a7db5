#include "arvek/rules/temperament.hpp"

#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/rules/condition.hpp"

namespace arvek {

double TemperamentAxis::factor(std::string_view reason) const {
    for (const auto& [name_of_reason, pull] : pulls)
        if (name_of_reason == reason) return std::pow(pull, value);
    return 1.0;
}

double Temperament::preference(std::string_view reason) const {
    for (const auto& [name_of_reason, weight] : preferences)
        if (name_of_reason == reason) return weight;
    return 1.0;
}

double Temperament::factor(std::string_view reason) const {
    double product = preference(reason);
    for (const TemperamentAxis& axis : axes) product *= axis.factor(reason);
    return product;
}

void check_temperament(const Temperament& temperament) {
    for (const TemperamentAxis& axis : temperament.axes) {
        if (!(axis.value >= -1 && axis.value <= 1))
            throw InputError("temperament", axis.name + " = " + number_text(axis.value) + " is out of range",
                             "-1 to 1");
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
                         std::string_view reason) {
    std::string text = note + ": " + rounded(urgency);
    double product = urgency;
    bool several = false;
    for (const TemperamentAxis& axis : temperament.axes) {
        const double factor = axis.factor(reason);
        if (factor == 1.0) continue;
        text += " x " + axis.name + " " + rounded(factor);
        product *= factor;
        several = true;
    }
    if (const double weight = temperament.preference(reason); weight != 1.0) {
        text += " x preference " + rounded(weight);
        product *= weight;
        several = true;
    }
    return several ? text + " = " + rounded(product) : text;
}

std::string feature_text(const std::string& name, double weight, double value) {
    return name + " " + rounded(value) + " x " + rounded(weight) + " = " + rounded(weight * value);
}

}  // namespace detail

}  // namespace arvek
