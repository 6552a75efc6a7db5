#include "arvek/search/transposition_table.hpp"

namespace arvek {

void TranspositionTable::clear() {
    slots_.clear();
    age_ = 0;
}

void TranspositionTable::begin_decision(Kept kept) {
    kept_ = kept;
    age_ = (age_ + 1) & age_mask;
    // An age that comes round again must not bring forgotten entries back: each decision empties a part of the table,
    // so that none outlives a whole round.
    if (kept != Kept::Everything) slots_.clear_part(age_, age_mask + 1);
}

}  // namespace arvek
