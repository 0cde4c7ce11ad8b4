#include "cli/coupon_command.h"

#include <fmt/chrono.h>
#include <fmt/format.h>

#include <ctime>
#include <filesystem>

#include "cli/parts_read.h"
#include "core/board/board_picture.h"
#include "core/board/coupon.h"
#include "core/derive.h"
#include "core/part/file.h"

namespace punch {

int couponCommand(const CouponArguments& a) {
    const auto part = loadPart(a.part);
    if (!part) return failed(part.error());
    const std::string date = !a.date.empty() ? a.date : fmt::format("{:%Y-%m-%d}", fmt::localtime(std::time(nullptr)));
    if (!a.from.empty()) {
        const auto record = loadCoupon(a.from);
        if (!record) return failed(record.error());
        const auto taken = withCouponFit(*part, *record, a.holes, a.pegs, date);
        if (!taken) return failed(taken.error());
        if (const auto saved = savePart(*taken, a.part); !saved) return failed(saved.error());
        fmt::print("{}: {}\n", taken->name, taken->history.back().words);
        return 0;
    }
    if (a.folder.empty())
        return failed(
            {"nothing is asked for", "punch coupon", "Give --to FOLDER, or --from FILE with --holes and --pegs"});
    CouponOptions options;
    options.step = Length::fromMm(a.step);
    options.narrower = a.narrower;
    options.wider = a.wider;
    options.rings = !a.noRings;
    const auto coupon = fitCoupon(*part, derive(*part), options, date);
    if (!coupon) return failed(coupon.error());
    const auto files = couponFiles(*coupon);
    if (!files) return failed(files.error());
    if (const auto written = writeAllAtomically(a.folder, *files); !written) return failed(written.error());
    const BoardOutline& o = coupon->board.board.outline;
    fmt::print("{} copies on {:.0f} x {:.0f} mm\n", coupon->record.copies.size(), o.width.mm(), o.height.mm());
    for (const CouponCopy& c : coupon->record.copies) {
        fmt::print("  {} {:+.2f}", c.label, c.by.mm());
        for (const CouponHole& h : c.holes) fmt::print("  {} {:.2f}", featureWords(*part, h.id), h.size.mm());
        fmt::print("\n");
    }
    if (!a.picture.empty()) {
        const auto png = boardPicture(coupon->board, {}, 1280, 800, SeenFrom::Above);
        if (!png) return failed(png.error());
        if (const auto written = writeAtomically(a.picture, *png); !written) return failed(written.error());
    }
    for (const NamedContent& f : *files) fmt::print("{}\n", (std::filesystem::path(a.folder) / f.name).string());
    return 0;
}

}  // namespace punch
