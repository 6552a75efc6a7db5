#include "arvek/search/transposition_table.hpp"

namespace arvek {

void TranspositionTable::clear() {
    slots_.clear();
    age_ = 0;
}

void TranspositionTable::begin_decision(bool kept) {
    kept_ = kept;
    age_ = (age_ + 1) & age_mask;
    // An age that comes round again must not bring forgotten entries back.
    if (age_ == 0 && !kept) clear();
}

}  // namespace arvek
