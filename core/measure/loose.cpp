#include "core/measure/loose.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "core/measure/adjust.h"
#include "core/part/numbering.h"

namespace punch {
namespace {

constexpr double kStill = 1e-7;  // of the largest movement: below it a feature stands still

/// A sparse basis of the null space, by columns, in unscaled unknowns with the largest entry 1.
Eigen::MatrixXd sparseBasis(Eigen::MatrixXd basis) {
    const Eigen::Index n = basis.rows();
    const Eigen::Index k = basis.cols();
    std::vector<bool> pivoted(static_cast<std::size_t>(n), false);
    for (Eigen::Index j = 0; j < k; ++j) {
        Eigen::Index row = 0;
        Eigen::Index column = j;
        double largest = -1;
        for (Eigen::Index i = 0; i < n; ++i)
            for (Eigen::Index c = j; c < k; ++c)
                if (!pivoted[static_cast<std::size_t>(i)] && std::abs(basis(i, c)) > largest * (1 + 1e-9)) {
                    largest = std::abs(basis(i, c));
                    row = i;
                    column = c;
                }
        if (largest <= 0) break;
        pivoted[static_cast<std::size_t>(row)] = true;
        basis.col(j).swap(basis.col(column));
        basis.col(j) /= basis(row, j);
        for (Eigen::Index c = 0; c < k; ++c)
            if (c != j) basis.col(c) -= basis(row, c) * basis.col(j);
    }
    for (Eigen::Index j = 0; j < k; ++j) {
        const double most = basis.col(j).lpNorm<Eigen::Infinity>();
        for (Eigen::Index i = 0; i < n; ++i)
            if (std::abs(basis(i, j)) < kStill * most) basis(i, j) = 0;
    }
    return basis;
}

/// Where nothing or next to nothing is determined, each loose parameter is a movement of its own: looking for fewer
/// would cost more than it tells.
Eigen::MatrixXd basisOf(const Adjustment& a) {
    constexpr Eigen::Index kMostForElimination = 300;
    const Eigen::MatrixXd& null = a.loose();
    if (null.cols() < null.rows() && null.cols() <= kMostForElimination) return sparseBasis(null);
    std::vector<Eigen::Index> loose;
    for (Eigen::Index i = 0; i < null.rows(); ++i)
        if (null.row(i).squaredNorm() > 0) loose.push_back(i);
    Eigen::MatrixXd basis = Eigen::MatrixXd::Zero(null.rows(), static_cast<Eigen::Index>(loose.size()));
    for (std::size_t j = 0; j < loose.size(); ++j) basis(loose[j], static_cast<Eigen::Index>(j)) = 1;
    return basis;
}

double alongDirection(const Expr& e, const Eigen::VectorXd& direction) {
    double sum = 0;
    for (const auto& [index, d] : e.gradient()) sum += d * direction(index);
    return sum;
}

struct Moved {
    const Feature* feature;
    double dx, dy, size, level;
};

/// Do all move as a turn about one point? x' = -c (y - y0), y' = c (x - x0).
bool isTurn(const std::vector<Moved>& moved, double tolerance) {
    if (moved.size() < 2) return false;
    double mx = 0, my = 0, mdx = 0, mdy = 0;
    const auto n = static_cast<double>(moved.size());
    for (const Moved& m : moved) {
        mx += m.feature->x.value() / n;
        my += m.feature->y.value() / n;
        mdx += m.dx / n;
        mdy += m.dy / n;
    }
    double numerator = 0, denominator = 0;
    for (const Moved& m : moved) {
        const double x = m.feature->x.value() - mx;
        const double y = m.feature->y.value() - my;
        numerator += x * (m.dy - mdy) - y * (m.dx - mdx);
        denominator += x * x + y * y;
    }
    if (denominator < 1e-9) return false;
    const double c = numerator / denominator;
    if (std::abs(c) * std::sqrt(denominator / n) < tolerance) return false;
    return std::all_of(moved.begin(), moved.end(), [&](const Moved& m) {
        const double x = m.feature->x.value() - mx;
        const double y = m.feature->y.value() - my;
        return std::abs(m.dx - mdx + c * y) < tolerance && std::abs(m.dy - mdy - c * x) < tolerance;
    });
}

LooseMovement::Kind kindOf(const std::vector<Moved>& moved) {
    using Kind = LooseMovement::Kind;
    double most = 0;
    double place = 0;
    for (const Moved& m : moved) {
        place = std::max({place, std::abs(m.dx), std::abs(m.dy)});
        most = std::max({most, std::abs(m.size), std::abs(m.level)});
    }
    most = std::max(most, place);
    const double tolerance = 1e-6 * most;
    if (place <= tolerance) {
        const bool sizes =
            std::any_of(moved.begin(), moved.end(), [&](const Moved& m) { return std::abs(m.size) > tolerance; });
        return sizes ? Kind::Size : Kind::Height;
    }
    // What only grows while others move does not decide how they move.
    std::vector<Moved> places;
    for (const Moved& m : moved)
        if (std::max(std::abs(m.dx), std::abs(m.dy)) > tolerance) places.push_back(m);
    const bool same = std::all_of(places.begin(), places.end(), [&](const Moved& m) {
        return std::abs(m.dx - places.front().dx) < tolerance && std::abs(m.dy - places.front().dy) < tolerance;
    });
    if (same) {
        if (std::abs(places.front().dy) < tolerance) return Kind::Along;
        if (std::abs(places.front().dx) < tolerance) return Kind::Across;
        return Kind::Plane;
    }
    return isTurn(places, tolerance) ? Kind::Turn : Kind::Spread;
}

std::string joined(const std::vector<std::string>& words) {
    std::string all;
    for (std::size_t i = 0; i < words.size(); ++i)
        all += (i == 0 ? "" : i + 1 == words.size() ? " and " : ", ") + words[i];
    return all;
}

/// "pins", "pins of f2", "pin 3", "peg", "left face", "peg and lock1", "3 features".
std::string subject(const Part& part, const std::vector<FeatureId>& features, bool& plural) {
    plural = features.size() > 1;
    std::vector<std::string> names;
    std::vector<FeatureId> left = features;
    for (const Formation& f : part.formations) {
        const auto in = [&](const FeatureId& id) {
            return std::find(f.pins.begin(), f.pins.end(), id) != f.pins.end();
        };
        const auto count = static_cast<std::size_t>(std::count_if(left.begin(), left.end(), in));
        // All but the one at the origin counts as all.
        if (count == 0 || count + 1 < f.pins.size() || f.pins.size() < 2) continue;
        std::erase_if(left, in);
        names.push_back(part.formations.size() == 1 ? std::string("pins") : "pins of " + f.id);
        plural = true;
    }
    // Of very many only the first are named.
    const std::size_t all = names.size() + left.size();
    for (const FeatureId& id : left)
        if (names.size() < 3) names.push_back(featureWords(part, id));
    if (all > 3) return fmt::format("{}, {} and {} more", names[0], names[1], all - 2);
    return joined(names);
}

std::string wordsOf(const Part& part, const Model& model, const LooseMovement& m) {
    using Kind = LooseMovement::Kind;
    std::vector<std::string> parameters;
    for (const std::string& name : m.parameters) parameters.push_back(model.parameter(name).words);
    if (parameters.size() > 3)
        parameters = {parameters[0], parameters[1], fmt::format("{} more", parameters.size() - 2)};
    const std::string what = joined(parameters);
    const bool apart = m.parameters.size() > 1;
    if (m.kind == Kind::Size || m.kind == Kind::Height || m.kind == Kind::Value)
        return apart ? what + " are not told apart yet" : what + " not measured yet";
    bool plural = false;
    const std::string who = subject(part, m.features, plural);
    const std::string is = plural ? " are" : " is";
    const std::string way = m.kind == Kind::Along    ? " along the row"
                            : m.kind == Kind::Across ? " across the row"
                            : m.kind == Kind::Plane  ? " along and across the row"
                            : m.kind == Kind::Turn   ? ", it may turn"
                                                     : "";
    if (apart && m.kind != Kind::Plane) return who + is + " loose" + way + ": " + what + " are not told apart yet";
    if (m.features.size() == 1) {
        if (isFace(part, m.features.front())) return who + " is loose";
        if (const Spot* spot = spotOf(part, m.features.front()))
            return fmt::format("{}{} is loose: not measured{} yet", who,
                               spot->kind == SpotKind::Mark || spot->name.starts_with("hole") ? "" : " hole", way);
    }
    if (m.kind == Kind::Turn) return who + is + " loose" + way + ": " + what + " not measured yet";
    // The whole field of a row, or its spreading by the pitch.
    return who + is + " loose" + (m.kind == Kind::Spread ? "" : way) + ": " + what + " not measured yet";
}

}  // namespace

std::vector<LooseMovement> looseMovements(const Part& part, const Adjustment& a) {
    using Kind = LooseMovement::Kind;
    std::vector<LooseMovement> all;
    if (a.loose().cols() == 0) return all;
    const Model& model = a.model();
    const Eigen::MatrixXd basis = basisOf(a);
    for (Eigen::Index j = 0; j < basis.cols(); ++j) {
        const Eigen::VectorXd direction = basis.col(j);
        LooseMovement m;
        for (const Parameter& p : model.parameters())
            if (p.unknown >= 0 && direction(p.unknown) != 0) m.parameters.push_back(p.name);
        std::vector<Moved> moved;
        double most = 0;
        for (const auto& [id, f] : a.features()) {
            if (f.kind == FeatureKind::Body || id == kSeatingPlane || id == kTopFace) continue;
            double size = 0;
            for (const Expr* half : {&f.halfX, &f.halfY, f.endX ? &*f.endX : nullptr, f.endY ? &*f.endY : nullptr})
                if (half != nullptr) size = std::max(size, std::abs(alongDirection(*half, direction)));
            const double level = f.height ? alongDirection(*f.height, direction)
                                 : f.z    ? alongDirection(*f.z, direction)
                                          : 0;
            moved.push_back({&f, alongDirection(f.x, direction), alongDirection(f.y, direction), size, level});
            most = std::max({most, std::abs(moved.back().dx), std::abs(moved.back().dy), size, std::abs(level)});
        }
        std::erase_if(moved, [&](const Moved& v) {
            return std::max({std::abs(v.dx), std::abs(v.dy), v.size, std::abs(v.level)}) <= 1e-6 * most;
        });
        for (const Moved& v : moved) m.features.push_back(v.feature->id);
        const bool height = model.has("body.height") && direction.size() > 0 &&
                            std::find(m.parameters.begin(), m.parameters.end(), "body.height") != m.parameters.end();
        if (moved.empty()) {
            m.kind = height ? Kind::Height : Kind::Value;
            if (height) m.features = {kBody};
        } else {
            m.kind = kindOf(moved);
        }
        // A row that spreads by its pitch alone moves along it.
        if (m.kind == Kind::Spread && std::all_of(moved.begin(), moved.end(), [](const Moved& v) { return v.dy == 0; }))
            m.words = "along";
        all.push_back(std::move(m));
    }
    // One feature that is loose both ways is named once.
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t k = i + 1; k < all.size(); ++k)
            if (all[i].features == all[k].features && ((all[i].kind == Kind::Along && all[k].kind == Kind::Across) ||
                                                       (all[i].kind == Kind::Across && all[k].kind == Kind::Along))) {
                all[i].kind = Kind::Plane;
                all[i].parameters.insert(all[i].parameters.end(), all[k].parameters.begin(), all[k].parameters.end());
                all.erase(all.begin() + static_cast<std::ptrdiff_t>(k));
                break;
            }
    for (LooseMovement& m : all) {
        const bool along = m.words == "along";
        m.words = wordsOf(part, model, m);
        if (along && m.words.find(" loose: ") != std::string::npos)
            m.words.replace(m.words.find(" loose: "), 8, " loose along the row: ");
    }
    // What moves places first, then sizes, then levels.
    const auto rank = [&](const LooseMovement& m) {
        int least = 1 << 20;
        for (const std::string& name : m.parameters) least = std::min(least, model.parameterIndex(name));
        return std::pair(m.kind < Kind::Size ? 0 : static_cast<int>(m.kind), least);
    };
    std::stable_sort(all.begin(), all.end(), [&](const auto& x, const auto& y) { return rank(x) < rank(y); });
    return all;
}

}  // namespace punch
