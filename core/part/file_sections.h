#pragma once
// The sections of a part's file: each to JSON and back. Used by file.cpp alone.

#include "core/part/edit.h"
#include "core/part/json_fields.h"

namespace punch {

using Json = nlohmann::ordered_json;

Json toJson(const Reading& r);
Reading readingFrom(Fields f);
Json toJson(const LetterTable& t);
LetterTable letterTableFrom(Fields f);
Json toJson(const Instrument& i);
Instrument instrumentFrom(Fields f);

Json toJson(const Formation& v);
Formation formationFrom(Fields f);
Json toJson(const Spot& v);
Spot spotFrom(Fields f);
Json toJson(const Face& v);
Face faceFrom(Fields f);

Json toJson(const Source& s);
Source sourceFrom(Fields f);
Json toJson(const Rules& r);
Rules rulesFrom(Fields f);
Json toJson(const PadOverride& o);
PadOverride padOverrideFrom(Fields f);
/// A cut-out of files in which cut-outs were no marks yet.
Mark cutOutBeforeMarks(Fields f);
Json toJson(const FabProfile& p);
FabProfile fabProfileFrom(Fields f);
Json toJson(const Potential& p);
Potential potentialFrom(Fields f);
Json toJson(const Mark& m);
Mark markFrom(Fields f);
Json toJson(const SolidFile& s);
SolidFile solidFrom(Fields f);
Json toJson(const Pin& p);
Pin pinFrom(Fields f);
Json toJson(const BenchNote& n);
BenchNote benchNoteFrom(Fields f);
Json toJson(const BoardNote& n);
BoardNote boardNoteFrom(Fields f);
Json toJson(const Variant& v);
Variant variantFrom(Fields f);
Json toJson(const Make& m);
Json toJson(const SymbolDrawing& s);
SymbolDrawing symbolFrom(Fields f);
Json toJson(const Family& f);
Family familyFrom(Fields f);
Json toJson(const Sample& s);
Sample sampleFrom(Fields f);
Mark keepoutFromVersion1(Fields f);
Json toJson(const Dress& d);
Dress dressFrom(Fields f);

template <class T>
Json listToJson(const std::vector<T>& values) {
    Json j = Json::array();
    for (const T& v : values) j.push_back(toJson(v));
    return j;
}

}  // namespace punch
