#pragma once

namespace punch {
inline constexpr const char* kVersion = "0.7.0";
}
