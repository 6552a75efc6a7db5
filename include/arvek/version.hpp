#pragma once

/// The one place where the version is defined; the build reads it from here.
#define ARVEK_VERSION_MAJOR 0
#define ARVEK_VERSION_MINOR 1
#define ARVEK_VERSION_PATCH 0
