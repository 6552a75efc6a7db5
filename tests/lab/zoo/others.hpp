#pragma once
#include "lab/zoo/locks.hpp"
#include "lab/zoo/tides.hpp"
#include "lab/zoo/towpath.hpp"
namespace zoo {
template <class F>
void run_others(F f) {
    f(Tides{}, "tides", tides_faults);
    f(Towpath{}, "towpath", towpath_faults);
    f(Locks{}, "locks", locks_faults);
}
}  // namespace zoo
