#pragma once
// Parts for tests: the demo part from its file, and small made-up ones.

#include <fmt/format.h>
#include <gtest/gtest.h>

#include <filesystem>
#include <random>
#include <string>

#include "core/derive.h"
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

inline double paramValue(const Footprint& f, const std::string& name) { return f.parameter(name)->value.mm(); }

}  // namespace punch::test
