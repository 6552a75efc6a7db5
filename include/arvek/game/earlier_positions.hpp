#pragma once
// The earlier positions of a game in another type, such as those of AnyGame.

#include <cstddef>
#include <span>
#include <vector>

namespace arvek {

/// The earlier positions of a game in another type.
template <class To>
class EarlierPositions {
   public:
    /// `same(converted, position)`, `convert(position)`. What was converted before and is still the same is kept. The
    /// span holds until the next call.
    template <class From, class Same, class Convert>
    std::span<const To> of(std::span<const From> earlier, Same same, Convert convert) {
        std::size_t alike = 0;
        while (alike < kept_.size() && alike < earlier.size() && same(kept_[alike], earlier[alike])) ++alike;
        kept_.resize(alike);
        for (std::size_t i = alike; i < earlier.size(); ++i) kept_.push_back(convert(earlier[i]));
        return kept_;
    }

   private:
    std::vector<To> kept_;
};

}  // namespace arvek
