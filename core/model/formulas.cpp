// The order of formulas: each after those that it needs; cycles are named and broken.

#include <fmt/format.h>

#include <functional>

#include "core/model/model.h"

namespace punch {

void Model::orderFormulas() {
    std::vector<int> boundOf(parameters_.size(), -1);
    for (std::size_t i = 0; i < bound_.size(); ++i)
        boundOf[static_cast<std::size_t>(bound_[i].parameter)] = static_cast<int>(i);

    // The parameters that a feature's place and size stand on.
    const std::function<std::vector<int>(int)> behindFeature = [&](int index) {
        std::vector<int> of;
        const auto put = [&](std::initializer_list<int> all) {
            for (const int p : all)
                if (p >= 0) of.push_back(p);
        };
        for (int at = index; at >= 0;) {
            const Ref& ref = features_[static_cast<std::size_t>(at)];
            if (ref.kind == Kind::Pin) {
                const Pattern& p = patterns_[ref.owner];
                put({p.x, p.y, p.turn, p.pitch, p.rearPitch, p.rowGap, p.rowShift, p.circle, p.start, p.step, p.axis,
                     p.width, p.thickness, p.length, ref.dx, ref.dy});
            } else if (ref.kind == Kind::Spot) {
                const SpotRef& s = spots_[ref.owner];
                put({s.x, s.y, s.width, s.thickness, s.axis});
            } else if (ref.kind == Kind::Body) {
                put({left_, right_, front_, rear_, height_});
            } else {
                put({faces_[ref.owner].at});
            }
            at = ref.mirrored;
        }
        return of;
    };
    const auto behind = [&](const Bound& b) {
        std::vector<int> of;
        for (const int name : b.of) {
            if (name >= 0) {
                of.push_back(name);
                continue;
            }
            const Named& n = named_[static_cast<std::size_t>(-2 - name)];
            for (const int feature : {n.a, n.b, n.c})
                if (feature >= 0)
                    for (const int p : behindFeature(feature)) of.push_back(p);
        }
        return of;
    };
    enum class State { Not, Open, Done };
    std::vector<State> marks(bound_.size(), State::Not);
    std::vector<int> path;
    std::vector<Bound> ordered;
    std::vector<bool> broken(bound_.size(), false);
    const std::function<void(int)> visit = [&](int i) {
        const auto at = static_cast<std::size_t>(i);
        if (marks[at] == State::Done) return;
        if (marks[at] == State::Open) {
            std::string names;
            bool inside = false;
            for (const int k : path) {
                inside = inside || k == i;
                if (inside)
                    names += parameters_[static_cast<std::size_t>(bound_[static_cast<std::size_t>(k)].parameter)].name +
                             " → ";
            }
            const Parameter& p = parameters_[static_cast<std::size_t>(bound_[at].parameter)];
            if (!broken[at])
                complain(bound_[at].parameter, fmt::format("the formulas go in a circle: {}{}", names, p.name));
            broken[at] = true;
            return;
        }
        marks[at] = State::Open;
        path.push_back(i);
        for (const int p : behind(bound_[at]))
            if (const int next = boundOf[static_cast<std::size_t>(p)]; next >= 0) visit(next);
        path.pop_back();
        marks[at] = State::Done;
        if (!broken[at]) ordered.push_back(bound_[at]);
    };
    for (std::size_t i = 0; i < bound_.size(); ++i) visit(static_cast<int>(i));
    bound_ = std::move(ordered);
}

}  // namespace punch
