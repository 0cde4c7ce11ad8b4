#include "core/picture/component_tree.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <numbers>

namespace punch {

namespace {

struct Node {
    double area = 0, x = 0, y = 0, xx = 0, yy = 0, xy = 0;
    int left = 0, right = 0, top = 0, bottom = 0;
    int level = 0;
    int parent = -1;

    void add(const Node& o) {
        area += o.area;
        x += o.x;
        y += o.y;
        xx += o.xx;
        yy += o.yy;
        xy += o.xy;
        left = std::min(left, o.left);
        right = std::max(right, o.right);
        top = std::min(top, o.top);
        bottom = std::max(bottom, o.bottom);
    }
};

/// The tree by nodes of one level each, children before parents.
///
/// The picture is flooded from its highest levels down, always at the lowest basin that was met, so that memory is
/// walked through in one piece (Nister and Stewenius 2008). Each basin under way has what it holds so far; when it
/// fills beyond its level a node is kept of it, and when it meets another one, both become one.
class Tree {
public:
    /// Patches smaller than `least` pixels are no nodes of their own.
    Tree(const Grey& grey, bool bright, double least) : least_(least), stride_(grey.width + 2) {
        // With a border around it that was always there already.
        const std::size_t size = static_cast<std::size_t>(stride_) * (grey.height + 2);
        depth_.assign(size, 0);
        met_.assign(size, 1);
        const std::uint8_t flip = bright ? 255 : 0;  // depth 0 is flooded first
        for (int y = 0; y < grey.height; ++y)
            for (int x = 0; x < grey.width; ++x) {
                const std::size_t at = static_cast<std::size_t>(y + 1) * stride_ + x + 1;
                depth_[at] = grey.data[static_cast<std::size_t>(y) * grey.width + x] ^ flip;
                met_[at] = 0;
            }
        flood();
    }
    std::vector<Node> nodes;

private:
    struct Basin {
        int depth = 256;
        Node holds;
        int first = -1, last = -1;  // nodes that wait for their parent, chained by next_
    };
    struct Shore {
        int pixel;
        int edge;  // which neighbour comes next
    };

    void keep(Basin& b) {
        if (b.holds.area < least_) return;
        const int node = static_cast<int>(nodes.size());
        nodes.push_back(b.holds);
        nodes.back().level = 255 - b.depth;
        next_.push_back(-1);
        for (int child = b.first; child >= 0; child = next_[static_cast<std::size_t>(child)])
            nodes[static_cast<std::size_t>(child)].parent = node;
        b.first = b.last = node;
    }

    /// The basin on top fills up to `depth`; others that it reaches become part of it.
    void fillTo(int depth) {
        while (depth > basins_.back().depth) {
            Basin& top = basins_.back();
            keep(top);
            Basin& below = basins_[basins_.size() - 2];
            if (depth < below.depth) {
                top.depth = depth;
                return;
            }
            if (below.holds.area > 0)
                below.holds.add(top.holds);
            else
                below.holds = top.holds;
            if (top.first >= 0) {
                if (below.first < 0)
                    below.first = top.first;
                else
                    next_[static_cast<std::size_t>(below.last)] = top.first;
                below.last = top.last;
            }
            basins_.pop_back();
        }
    }

    void flood() {
        const std::array<int, 4> way = {1, stride_, -1, -stride_};
        std::array<std::vector<Shore>, 256> shores;
        std::array<std::uint64_t, 4> open{};
        const auto push = [&](int depth, Shore shore) {
            shores[static_cast<std::size_t>(depth)].push_back(shore);
            open[static_cast<std::size_t>(depth / 64)] |= std::uint64_t{1} << (depth % 64);
        };
        basins_.push_back({});
        Shore at{stride_ + 1, 0};
        met_[static_cast<std::size_t>(at.pixel)] = 1;
        const auto begin = [&](int pixel) {
            Basin b;
            b.depth = depth_[static_cast<std::size_t>(pixel)];
            basins_.push_back(b);
        };
        begin(at.pixel);
        while (true) {
            const int here = depth_[static_cast<std::size_t>(at.pixel)];
            bool deeper = false;
            for (; at.edge < 4; ++at.edge) {
                const int q = at.pixel + way[static_cast<std::size_t>(at.edge)];
                if (met_[static_cast<std::size_t>(q)] != 0) continue;
                met_[static_cast<std::size_t>(q)] = 1;
                const int there = depth_[static_cast<std::size_t>(q)];
                if (there >= here) {
                    push(there, {q, 0});
                    continue;
                }
                push(here, {at.pixel, at.edge + 1});
                at = {q, 0};
                begin(q);
                deeper = true;
                break;
            }
            if (deeper) continue;
            const int x = at.pixel % stride_ - 1, y = at.pixel / stride_ - 1;
            Node own{1.0, x * 1.0, y * 1.0, 1.0 * x * x, 1.0 * y * y, 1.0 * x * y, x, x, y, y, 0, -1};
            Node& holds = basins_.back().holds;
            if (holds.area > 0)
                holds.add(own);
            else
                holds = own;
            std::size_t word = 0;
            while (word < 4 && open[word] == 0) ++word;
            if (word == 4) break;
            const int depth = static_cast<int>(word) * 64 + std::countr_zero(open[word]);
            auto& shore = shores[static_cast<std::size_t>(depth)];
            at = shore.back();
            shore.pop_back();
            if (shore.empty()) open[word] &= ~(std::uint64_t{1} << (depth % 64));
            if (depth > basins_.back().depth) fillTo(depth);
        }
        while (basins_.size() > 1) {
            keep(basins_.back());
            Basin& top = basins_.back();
            Basin& below = basins_[basins_.size() - 2];
            if (basins_.size() > 2) {
                below.holds.add(top.holds);
                if (top.first >= 0) {
                    next_[static_cast<std::size_t>(top.last)] = below.first;
                    below.first = top.first;
                    if (below.last < 0) below.last = top.last;
                }
            }
            basins_.pop_back();
        }
    }

    double least_;
    int stride_;
    std::vector<std::uint8_t> depth_, met_;
    std::vector<Basin> basins_;
    std::vector<int> next_;
};

}  // namespace

double Blob::fullness() const {
    const double det = xx * yy - xy * xy;
    return det <= 0 ? 0.0 : area / (4 * std::numbers::pi * std::sqrt(det));
}
double Blob::major() const {
    const double mean = (xx + yy) / 2;
    return 2 * std::sqrt(mean + std::hypot((xx - yy) / 2, xy));
}
double Blob::minor() const {
    const double mean = (xx + yy) / 2;
    return 2 * std::sqrt(std::max(mean - std::hypot((xx - yy) / 2, xy), 0.0));
}
double Blob::turn() const { return std::atan2(2 * xy, xx - yy) / 2 * 180 / std::numbers::pi; }

std::vector<Blob> findBlobs(const Grey& grey, bool bright, const BlobSearch& search) {
    if (grey.width < 3 || grey.height < 3) return {};
    // A patch that shrinks to less than this within its levels is not stable, however small it becomes.
    const Tree tree(grey, bright, search.leastArea * (1 - search.mostVariation));
    const std::vector<Node>& nodes = tree.nodes;
    // A node whose parent has its own level is an earlier state of it: the one patch is its last state.
    std::vector<int> patch(nodes.size(), -1);
    for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
        int last = i;
        while (patch[last] < 0 && nodes[last].parent >= 0 && nodes[nodes[last].parent].level == nodes[last].level)
            last = nodes[last].parent;
        if (patch[last] >= 0) last = patch[last];
        for (int n = i; n != last && patch[n] < 0; n = nodes[n].parent) patch[n] = last;
        patch[last] = last;
    }
    const auto parentOf = [&](int i) { return nodes[i].parent < 0 ? -1 : patch[nodes[i].parent]; };
    const auto inRange = [&](const Node& n) { return n.area >= search.leastArea && n.area <= search.mostArea; };

    // The child of largest area leads up a branch.
    std::vector<int> mainChild(nodes.size(), -1);
    for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
        const int p = parentOf(i);
        if (p < 0 || nodes[p].level == nodes[i].level) continue;
        if (mainChild[p] < 0 || nodes[mainChild[p]].area < nodes[i].area) mainChild[p] = i;
    }
    const auto areaAbove = [&](int i, int delta) {  // of the patch that holds it, `delta` levels further out
        const int goal = nodes[i].level - delta;
        int n = i;
        for (int p = parentOf(n); p >= 0 && nodes[p].level >= goal; p = parentOf(n)) n = p;
        return nodes[n].area;
    };
    const auto areaBelow = [&](int i, int delta) {
        const int goal = nodes[i].level + delta;
        int n = i;
        while (n >= 0 && nodes[n].level < goal) n = mainChild[n];
        return n < 0 ? 0.0 : nodes[n].area;
    };

    std::vector<Blob> out;
    std::vector<bool> taken(nodes.size());
    for (const int delta : search.deltas) {
        std::vector<float> variation(nodes.size(), -1.0f);
        for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
            if (!inRange(nodes[i])) continue;
            const int p = nodes[i].parent;
            if (p >= 0 && nodes[p].level == nodes[i].level) continue;  // an earlier state of its parent
            variation[i] = static_cast<float>((areaAbove(i, delta) - areaBelow(i, delta)) / nodes[i].area);
        }
        for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
            const float v = variation[i];
            if (v < 0 || v > search.mostVariation || taken[i]) continue;
            const int p = parentOf(i);
            const int c = mainChild[i];
            if (p >= 0 && variation[p] >= 0 && variation[p] < v) continue;
            if (c >= 0 && variation[c] >= 0 && variation[c] <= v) continue;
            const Node& n = nodes[i];
            if (n.left == 0 || n.top == 0 || n.right == grey.width - 1 || n.bottom == grey.height - 1) continue;
            taken[i] = true;
            Blob b;
            b.bright = bright;
            b.area = n.area;
            b.x = n.x / n.area;
            b.y = n.y / n.area;
            // A pixel is a little square: its own second moment is 1/12.
            b.xx = n.xx / n.area - b.x * b.x + 1.0 / 12;
            b.yy = n.yy / n.area - b.y * b.y + 1.0 / 12;
            b.xy = n.xy / n.area - b.x * b.y;
            b.left = n.left;
            b.right = n.right;
            b.top = n.top;
            b.bottom = n.bottom;
            b.level = bright ? n.level : 255 - n.level;
            b.variation = v;
            if (b.fullness() >= search.leastFullness) out.push_back(b);
        }
    }
    return out;
}

}  // namespace punch
