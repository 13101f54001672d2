// What nearly every test of the window reads, compiled once.
#pragma once

#include "support/precompiled.h"
#include "support/window.h"
