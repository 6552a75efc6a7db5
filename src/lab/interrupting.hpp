#pragma once
// A thread that is stopped at any instruction while another one works: what two threads would meet in by chance, met by
// construction.

#include <functional>

namespace arvek::detail {

/// Does `over_and_over` in a thread of its own. So many times it is stopped there wherever it happens to be, `meanwhile` is done
/// in the calling thread, and it goes on from where it was. Ends early once one of the two returns false; neither may throw.
/// False where nothing comes of it: the thread cannot be stopped, or keeps locked what `meanwhile` needs, which waits a
/// tenth of a second at most.
bool stop_in_the_middle(int times, const std::function<bool()>& over_and_over, const std::function<bool()>& meanwhile);

}  // namespace arvek::detail
