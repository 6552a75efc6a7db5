#pragma once
// A clock to pass to the core, which has none of its own.

namespace arvek {

/// Seconds since some fixed moment; never goes back. A Clock in the sense of search/limits.hpp.
double steady_seconds();

}  // namespace arvek
