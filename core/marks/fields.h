#pragma once
// Fields and first places that several kinds of marks share.

#include <vector>

#include "core/part/mark_kinds.h"

namespace punch::marks {

/// What an outline is made of. `further`: a line that encloses nothing, or a slot around one.
std::vector<MarkField> outlineFields(const char* form, const char* further = nullptr);
/// One list after the other.
std::vector<MarkField> with(std::vector<MarkField> a, const std::vector<MarkField>& b);

/// Towards where and by how much it slides, or about what and how far it turns, as the field "motion" says. `by`: how
/// far as a rule, and when that means something.
std::vector<MarkField> motionFields(const char* by, const char* byHelp, const char* byWhen);

MarkField layerField(const char* usual);
MarkField lineField();
MarkField sizeField(const char* usual, const char* help);
MarkField heightField(const char* usual);
/// The pad that a mark's copper belongs to.
MarkField padField(const char* onlyWhen = nullptr);
/// `both`: it may be on both.
MarkField sideField(bool both);

/// Places of a new one: the body's corners; its middle; both ends of its middle line.
std::vector<Anchored> bodyCorners();
std::vector<Anchored> bodyMiddle();
std::vector<Anchored> bodyMiddleLine();

}  // namespace punch::marks
