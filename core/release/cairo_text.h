#pragma once
// Where cairo writes to: a string, in place of a file.

#include <cairo.h>

#include <string>

namespace punch {

/// A cairo_write_func_t; `to` is a std::string.
inline cairo_status_t appendToString(void* to, const unsigned char* bytes, unsigned int count) {
    static_cast<std::string*>(to)->append(reinterpret_cast<const char*>(bytes), count);
    return CAIRO_STATUS_SUCCESS;
}

}  // namespace punch
