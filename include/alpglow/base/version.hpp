#pragma once
// Which version this is. The build takes its own number from here.
//
// What holds from one version to the next: sources that compile with 0.x.y compile with 0.x.z. Binaries do not mix: a
// program and the library are built from the same version with the same ALPGLOW_MOST_FRAMINGS. States that
// `CharacterCamera::save` wrote carry a number of their own, and are refused by a version with another one; the
// CHANGELOG says where it changed.

#define ALPGLOW_VERSION_MAJOR 0
#define ALPGLOW_VERSION_MINOR 2
#define ALPGLOW_VERSION_PATCH 0
