#include "arvek/search/searched_tree.hpp"

namespace arvek {

const char* name_of(Fate fate) {
    switch (fate) {
        case Fate::Searched: return "searched";
        case Fate::End: return "end";
        case Fate::Horizon: return "horizon";
        case Fate::Repetition: return "repetition";
        case Fate::Table: break;
    }
    return "table";
}

}  // namespace arvek
