#pragma once
// What nearly every unit reads: the standard library, and the values that the stages hand on. Read once, kept precompiled.
// A file still includes by itself what it uses.

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <functional>
#include <map>
#include <optional>
#include <set>
#include <string>
#include <variant>
#include <vector>

#include <fmt/format.h>

#include "core/footprint.h"
