#pragma once
// Parts for tests: the demo part from its file, and small made-up ones.

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <cmath>
#include <filesystem>
#include <random>
#include <string>

#include "core/derive.h"
#include "core/model/contacts.h"
#include "core/part/edit.h"
#include "core/part/file.h"

namespace punch::test {

/// Tests run in the folder of the sources.
inline std::string sourceFolder() { return std::filesystem::current_path().string(); }

inline Part demoPart() {
    const auto part = loadPart(sourceFolder() + "/demo/fennel-house/QB-TB4.punch");
    EXPECT_TRUE(part) << (part ? "" : part.error().text());
    return part ? *part : Part{};
}

inline Reading reading(FeatureId a, FeatureId b, Contact contact, Axis axis, const std::vector<double>& mm) {
    Reading r;
    r.a = std::move(a);
    r.b = std::move(b);
    r.contact = contact;
    r.axis = axis;
    for (const double v : mm) r.raw.push_back({Length::fromMm(v), fmt::format("{}", v), Unit::Mm, false, {}});
    return r;
}

inline Part with(Part part, const Reading& r) { return withReading(std::move(part), r); }

/// A row without a body, so that only what a test is about is there.
inline Part bareRow(int pins) {
    Part part = *newRow(pins);
    part.body.present = false;
    return part;
}

/// What jaws would show on a part whose parameters are all known: taken, given, or where they are assumed.
class Truth {
public:
    explicit Truth(const Part& part) : part_(part), model_(part), at_(model_, model_.start()) {}
    Truth(const Truth&) = delete;

    Result<Expr> equation(const Reading& r) const { return equationAt(at_, r); }
    /// NaN when the contact makes no sense there.
    double shown(const Reading& r) const {
        const auto e = equation(r);
        return e ? e->value() : std::nan("");
    }
    /// The same with unknown `k` moved by `step`, on the side where it is drawn now.
    double shownMoved(const Reading& r, std::size_t k, double step) const {
        std::vector<double> values = model_.start();
        values[k] += step;
        return equationAt(ModelAt(model_, values), r)->value();
    }
    const Model& model() const { return model_; }
    Feature feature(const FeatureId& id) const { return at_.feature(model_.featureIndex(id)); }

private:
    Result<Expr> equationAt(const ModelAt& at, const Reading& r) const {
        const auto find = [&](const ModelAt& of, const FeatureId& id) -> std::optional<Feature> {
            const int index = id.empty() ? -1 : model_.featureIndex(asMeant(r, id));
            return index < 0 ? std::nullopt : std::optional(of.feature(index));
        };
        const auto a = find(at, r.a), b = find(at, r.b), c = find(at, r.c);
        const auto drawnA = find(at_, r.a), drawnB = find(at_, r.b);
        if (!a || (!r.b.empty() && !b)) return problem("no such feature");
        const double sign = drawnB ? drawnSign(r, &*drawnA, &*drawnB) : 1.0;
        return contactExpr(r, &*a, b ? &*b : nullptr, c ? &*c : nullptr, sign);
    }
    Part part_;
    Model model_;
    ModelAt at_;
};

inline double paramValue(const Footprint& f, const std::string& name) { return f.parameter(name)->value.mm(); }

}  // namespace punch::test
