#include "core/picture/component_tree.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>
#include <utility>

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
/// Pixels enter from the highest level down. Each patch under way has one node for its current level; when a lower
/// pixel joins it, a new node above takes it over.
class Tree {
public:
    Tree(const Grey& grey, bool bright) : grey_(grey), flip_(bright ? 0 : 255) { build(); }
    std::vector<Node> nodes;

private:
    int level(int pixel) const { return grey_.data[static_cast<std::size_t>(pixel)] ^ flip_; }

    int find(int p) {
        int root = p;
        while (up_[root] != root) root = up_[root];
        while (up_[p] != root) p = std::exchange(up_[p], root);
        return root;
    }

    void build() {
        const int n = grey_.width * grey_.height;
        std::array<int, 257> starts{};
        for (int p = 0; p < n; ++p) ++starts[static_cast<std::size_t>(256 - level(p))];
        for (std::size_t i = 1; i < starts.size(); ++i) starts[i] += starts[i - 1];
        std::vector<int> order(static_cast<std::size_t>(n));
        for (int p = 0; p < n; ++p)
            order[static_cast<std::size_t>(starts[static_cast<std::size_t>(255 - level(p))]++)] = p;

        up_.assign(static_cast<std::size_t>(n), -1);
        nodeOf_.assign(static_cast<std::size_t>(n), -1);
        const std::array<int, 4> dx = {1, -1, 0, 0};
        const std::array<int, 4> dy = {0, 0, 1, -1};
        for (const int p : order) {
            const int px = p % grey_.width;
            const int py = p / grey_.width;
            const int l = level(p);
            Node own{1.0, px * 1.0, py * 1.0, 1.0 * px * px, 1.0 * py * py, 1.0 * px * py, px, px, py, py, l, -1};
            int root = p;
            int node = -1;
            up_[p] = p;
            for (std::size_t k = 0; k < 4; ++k) {
                const int qx = px + dx[k];
                const int qy = py + dy[k];
                if (qx < 0 || qy < 0 || qx >= grey_.width || qy >= grey_.height) continue;
                const int q = qy * grey_.width + qx;
                if (up_[q] < 0) continue;
                const int other = find(q);
                if (other == root) continue;
                const int otherNode = nodeOf_[other];
                if (node < 0) {
                    // The pixel joins its first neighbour: on the same level as part of its node, else above it.
                    if (nodes[otherNode].level == l) {
                        node = otherNode;
                        nodes[node].add(own);
                    } else {
                        node = static_cast<int>(nodes.size());
                        nodes.push_back(own);
                        nodes[node].add(nodes[otherNode]);
                        nodes[otherNode].parent = node;
                    }
                } else {
                    // Of two nodes of one level the later points at the one that took it in, and counts no more.
                    nodes[node].add(nodes[otherNode]);
                    nodes[otherNode].parent = node;
                }
                // The larger patch keeps its root, which keeps the ways short.
                if (size(other) > size(root)) {
                    up_[root] = other;
                    root = other;
                } else {
                    up_[other] = root;
                }
            }
            if (node < 0) {
                node = static_cast<int>(nodes.size());
                nodes.push_back(own);
            }
            nodeOf_[root] = node;
        }
    }
    double size(int root) const { return nodeOf_[root] < 0 ? 0.0 : nodes[nodeOf_[root]].area; }

    const Grey& grey_;
    int flip_;
    std::vector<int> up_;
    std::vector<int> nodeOf_;
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
    const Tree tree(grey, bright);
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
    const auto areaAbove = [&](int i) {  // of the patch that holds it, `delta` levels further out
        const int goal = nodes[i].level - search.delta;
        int n = i;
        for (int p = parentOf(n); p >= 0 && nodes[p].level >= goal; p = parentOf(n)) n = p;
        return nodes[n].area;
    };
    const auto areaBelow = [&](int i) {
        const int goal = nodes[i].level + search.delta;
        int n = i;
        while (n >= 0 && nodes[n].level < goal) n = mainChild[n];
        return n < 0 ? 0.0 : nodes[n].area;
    };

    std::vector<float> variation(nodes.size(), -1.0f);
    for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
        if (!inRange(nodes[i])) continue;
        const int p = nodes[i].parent;
        if (p >= 0 && nodes[p].level == nodes[i].level) continue;  // an earlier state of its parent
        variation[i] = static_cast<float>((areaAbove(i) - areaBelow(i)) / nodes[i].area);
    }
    std::vector<Blob> out;
    for (int i = 0; i < static_cast<int>(nodes.size()); ++i) {
        const float v = variation[i];
        if (v < 0 || v > search.mostVariation) continue;
        const int p = parentOf(i);
        const int c = mainChild[i];
        if (p >= 0 && variation[p] >= 0 && variation[p] < v) continue;
        if (c >= 0 && variation[c] >= 0 && variation[c] <= v) continue;
        const Node& n = nodes[i];
        if (n.left == 0 || n.top == 0 || n.right == grey.width - 1 || n.bottom == grey.height - 1) continue;
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
    return out;
}

}  // namespace punch
