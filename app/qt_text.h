#pragma once
// Between the core's UTF-8 texts and Qt's.

#include <QString>
#include <string_view>

namespace punch {

inline QString toQt(std::string_view text) {
    return QString::fromUtf8(text.data(), static_cast<qsizetype>(text.size()));
}

}  // namespace punch
