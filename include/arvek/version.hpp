#pragma once

#if defined(__cplusplus) && __cplusplus < 202002L
#error "Arvek needs C++20: compile with -std=c++20, or target_compile_features(... cxx_std_20)"
#include <arvek_needs_cpp20>  // not there, so that the compiler stops here
#endif

/// The one place where the version is defined; the build reads it from here.
#define ARVEK_VERSION_MAJOR 0
#define ARVEK_VERSION_MINOR 1
#define ARVEK_VERSION_PATCH 0
