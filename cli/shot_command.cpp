#include "cli/shot_command.h"

#include <fmt/format.h>

#include <charconv>
#include <filesystem>

#include "cli/parts_read.h"
#include "core/base/atomic_file.h"
#include "core/derive.h"
#include "core/part/file.h"

namespace punch {
namespace {

bool readSize(const std::string& typed, int& width, int& height) {
    const char* end = typed.data() + typed.size();
    const auto w = std::from_chars(typed.data(), end, width);
    if (w.ec != std::errc() || w.ptr == end || *w.ptr != 'x') return false;
    const auto h = std::from_chars(w.ptr + 1, end, height);
    return h.ec == std::errc() && h.ptr == end;
}

}  // namespace

int shotCommand(ShotArguments arguments) {
    if (!readSize(arguments.size, arguments.wanted.width, arguments.wanted.height))
        return failed({"“" + arguments.size + "” is no size", "--size", "Type it as 1280x800"});
    const auto part = loadPart(arguments.part);
    if (!part) return failed(part.error());
    const std::string home = std::filesystem::absolute(arguments.part).parent_path().string();
    const auto png = partAsPng(*part, derive(*part), home, arguments.wanted);
    if (!png) return failed(png.error());
    if (const auto written = writeAtomically(arguments.to, *png); !written) return failed(written.error());
    fmt::print("{}\n", arguments.to);
    return 0;
}

}  // namespace punch
