#pragma once
// Temperament: how an opponent weighs the reasons for which moves are suggested.
//
//     Temperament bold{{{"daring", 0.8, {{"take", 3.0}, {"shelter", 0.5}}}}, {{"take", 1.2}}};
//     bold.factor("take");      // 3 to the power of 0.8, times 1.2
//
// An axis has a value from -1 to 1 and, for some reasons, a pull: how many times as urgent the reason is to somebody at
// 1. At 0 the axis changes nothing; at -1 the reason is as many times less urgent. A side's preferences are plain
// weights of reasons.

#include <string>
#include <string_view>
#include <utility>
#include <vector>

namespace arvek {

struct TemperamentAxis {
    std::string name;
    double value = 0.0;                                   ///< -1 to 1
    std::vector<std::pair<std::string, double>> pulls{};  ///< by reason; more than 0

    /// pull to the power of value; 1 for a reason without a pull.
    double factor(std::string_view reason) const;
};

struct Temperament {
    std::vector<TemperamentAxis> axes{};
    std::vector<std::pair<std::string, double>>
        preferences{};  ///< weights of reasons, 0 or more; 1 where none is given

    double preference(std::string_view reason) const;
    /// The product of every axis' factor and the preference.
    double factor(std::string_view reason) const;
};

/// Throws InputError for a value, a pull or a weight out of range.
void check_temperament(const Temperament& temperament);

namespace detail {

/// "takes the Runner off: 6 x daring 2.41 = 14.5", with every factor that is not 1.
std::string weighed_text(const std::string& note, double urgency, const Temperament& temperament,
                         std::string_view reason);
/// "3 x target stamina 12 = 36".
std::string feature_text(const std::string& name, double weight, double value);

}  // namespace detail

}  // namespace arvek
