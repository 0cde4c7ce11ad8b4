#pragma once
// A fit coupon: a small board that has a part's pattern several times, each copy's holes and pegs' holes a step wider
// than the one before, and single pads with graded rings. Panel-ready: a rectangle of whole millimetres with rails on
// two sides, tooling holes and three fiducials on them.
//
// What each copy holds is kept in a file beside the fab files (.coupon, JSON), so that the copy that fitted can be
// taken when the coupon comes back, whatever became of the part meanwhile.

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/base/value.h"
#include "core/board/laid_board.h"

namespace punch {

inline constexpr const char* kCouponSuffix = ".coupon";

struct CouponOptions {
    Length step = Length::fromMm(0.05);
    int narrower = 2, wider = 2;  ///< copies besides the part's own sizes
    bool rings = true;            ///< single pads with rings from the least to 0.15 over the part's
};

/// A hole as it is in one of the copies: finished, at its least.
struct CouponHole {
    FeatureId id;
    Length size, length;  ///< of a slot its width and length; 0 for a round one
    bool bare = false;
    friend bool operator==(const CouponHole&, const CouponHole&) = default;
};

struct CouponCopy {
    std::string label;  ///< "A"
    Length by;          ///< over the part's own sizes
    std::vector<CouponHole> holes;
    friend bool operator==(const CouponCopy&, const CouponCopy&) = default;
};

/// What is kept.
struct CouponRecord {
    std::string part, digest, made;  ///< name, digest of all that counts (core/approval), date
    std::vector<CouponCopy> copies;
    friend bool operator==(const CouponRecord&, const CouponRecord&) = default;
};
std::string couponText(const CouponRecord& record);
Result<CouponRecord> couponFromText(std::string_view text, const std::string& where);
Result<CouponRecord> loadCoupon(const std::filesystem::path& file);

struct FitCoupon {
    PUNCH_VALUE(FitCoupon)
    CouponRecord record;
    LaidBoard board;
};
/// Errors: loose or unsized holes, a part without holes, a step outside 0.01 to 0.5 mm, more than 26 copies, holes that
/// would vanish, a coupon beyond 600 mm.
Result<FitCoupon> fitCoupon(const Part& part, const Footprint& footprint, const CouponOptions& options,
                            const std::string& date);

/// Gerber, drill and the record. Errors: as the formats'.
Result<std::vector<NamedContent>> couponFiles(const FitCoupon& coupon);

/// The part with the holes of one copy and the pegs' holes of another (each may be empty: they stay), with the coupon
/// as their reason, as a proven source and in what boards said. Errors: no such copy, a coupon of another part, none
/// chosen.
Result<Part> withCouponFit(Part part, const CouponRecord& record, const std::string& holes, const std::string& pegs,
                           const std::string& date);

}  // namespace punch
