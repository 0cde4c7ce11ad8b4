#include <BRep_Builder.hxx>
#include <Interface_Static.hxx>
#include <Message_ProgressIndicator.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Reader.hxx>
#include <TDF_LabelSequence.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <TopoDS.hxx>
#include <TopoDS_Compound.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <algorithm>
#include <fstream>
#include <sstream>

#include "core/solid/kernel/kernel.h"

namespace punch::kernel {
namespace {

constexpr std::size_t kMostBodies = 20000;

class Telling : public Message_ProgressIndicator {
public:
    explicit Telling(Progress tell) : tell_(std::move(tell)) {}
    void Show(const Message_ProgressScope&, const Standard_Boolean) override { tell_(GetPosition()); }

private:
    Progress tell_;
};

Colour colourOf(const Quantity_Color& c) {
    Standard_Integer r = 0, g = 0, b = 0;
    const auto byte = [](double v) { return static_cast<Standard_Integer>(v * 255 + 0.5); };
    Standard_Real sr = 0, sg = 0, sb = 0;
    c.Values(sr, sg, sb, Quantity_TOC_sRGB);
    r = byte(sr);
    g = byte(sg);
    b = byte(sb);
    return static_cast<Colour>(r << 16 | g << 8 | b);
}

std::string nameOf(const TDF_Label& label) {
    Handle(TDataStd_Name) name;
    if (!label.FindAttribute(TDataStd_Name::GetID(), name)) return {};
    const TCollection_ExtendedString& text = name->Get();
    std::string utf8(static_cast<std::size_t>(text.LengthOfCString()) + 1, '\0');
    char* to = utf8.data();
    const auto n = text.ToUTF8CString(to);
    utf8.resize(static_cast<std::size_t>(n));
    return utf8;
}

/// Goes through products and what they are made of.
class Walk {
public:
    Walk(const Handle(XCAFDoc_ShapeTool) & shapes, const Handle(XCAFDoc_ColorTool) & colours, Read& out)
        : shapes_(shapes), colours_(colours), out_(out) {}

    void all() {
        TDF_LabelSequence free;
        shapes_->GetFreeShapes(free);
        for (const TDF_Label& label : free) product(label, TopLoc_Location(), kNoColour, {}, 0);
    }
    int surfaces = 0, wires = 0;
    bool tooMany = false;

private:
    Colour colour(const TDF_Label& label, Colour otherwise) const {
        Quantity_Color c;
        for (const XCAFDoc_ColorType type : {XCAFDoc_ColorSurf, XCAFDoc_ColorGen})
            if (colours_->GetColor(label, type, c)) return colourOf(c);
        return otherwise;
    }
    /// The label of a part of a product's shape, where it has one. The tool's own search goes through all products.
    TDF_Label within(const TDF_Label& product, const TopoDS_Shape& shape) const {
        TDF_Label label;
        if (shape.IsSame(XCAFDoc_ShapeTool::GetShape(product))) return product;
        shapes_->FindSubShape(product, shape, label);
        return label;
    }
    Colour colour(const TDF_Label& product, const TopoDS_Shape& shape, Colour otherwise) const {
        const TDF_Label label = within(product, shape);
        return label.IsNull() ? otherwise : colour(label, otherwise);
    }

    void product(const TDF_Label& label, const TopLoc_Location& at, Colour outer, const std::string& name, int depth) {
        if (depth > 60 || tooMany) return;
        const std::string own = nameOf(label);
        const std::string called = name.empty() || own.empty() ? (own.empty() ? name : own) : name;
        const Colour here = colour(label, outer);
        if (XCAFDoc_ShapeTool::IsAssembly(label)) {
            TDF_LabelSequence parts;
            XCAFDoc_ShapeTool::GetComponents(label, parts);
            for (const TDF_Label& part : parts) {
                TDF_Label of;
                if (!XCAFDoc_ShapeTool::GetReferredShape(part, of)) continue;
                const Colour placed = colour(part, here);
                product(of, at * XCAFDoc_ShapeTool::GetLocation(part), placed, nameOf(of), depth + 1);
            }
            return;
        }
        const TopoDS_Shape shape = XCAFDoc_ShapeTool::GetShape(label);
        if (shape.IsNull()) return;
        int count = 0;
        for (TopExp_Explorer e(shape, TopAbs_SOLID); e.More(); e.Next(), ++count)
            body(label, e.Current(), at, here, called);
        // Shells and faces that belong to no solid.
        TopoDS_Compound loose;
        BRep_Builder builder;
        builder.MakeCompound(loose);
        int faces = 0;
        for (TopExp_Explorer e(shape, TopAbs_FACE, TopAbs_SOLID); e.More(); e.Next(), ++faces)
            builder.Add(loose, e.Current());
        if (faces > 0) {
            surfaces += faces;
            body(label, loose, at, here, called);
        } else if (count == 0) {
            for (TopExp_Explorer e(shape, TopAbs_EDGE, TopAbs_FACE); e.More(); e.Next()) ++wires;
        }
    }

    void body(const TDF_Label& product, const TopoDS_Shape& shape, const TopLoc_Location& at, Colour outer,
              const std::string& name) {
        if (out_.bodies.size() >= kMostBodies) {
            tooMany = true;
            return;
        }
        Body b;
        b.colour = colour(product, shape, outer);
        const TDF_Label label = within(product, shape);
        b.name = !label.IsNull() && !nameOf(label).empty() ? nameOf(label) : name;
        bool own = false;
        for (TopExp_Explorer e(shape, TopAbs_FACE); e.More(); e.Next()) {
            const Colour c = colour(product, e.Current(), kNoColour);
            own |= c != kNoColour;
            b.faceColours.push_back(c);
        }
        // One colour all over is the body's.
        if (own && std::all_of(b.faceColours.begin(), b.faceColours.end(),
                               [&](Colour c) { return c == b.faceColours.front(); })) {
            b.colour = b.faceColours.front();
            own = false;
        }
        if (!own) b.faceColours.clear();
        b.shape = shape.Moved(at);
        out_.bodies.push_back(std::move(b));
    }

    const Handle(XCAFDoc_ShapeTool) & shapes_;
    const Handle(XCAFDoc_ColorTool) & colours_;
    Read& out_;
};

/// Does the text of a file name a unit of length?
bool namesUnit(const std::string& path) {
    std::ifstream in(path, std::ios::binary);
    std::string block(1 << 20, '\0'), kept;
    while (in) {
        in.read(block.data(), static_cast<std::streamsize>(block.size()));
        const std::string now = kept + block.substr(0, static_cast<std::size_t>(in.gcount()));
        if (now.find("LENGTH_UNIT") != std::string::npos) return true;
        kept = now.size() > 16 ? now.substr(now.size() - 16) : now;
    }
    return false;
}

}  // namespace

Result<Read> readStep(const std::string& path, const Progress& progress) {
    {
        std::ifstream in(path, std::ios::binary);
        std::string head(256, '\0');
        in.read(head.data(), 256);
        if (!in && in.gcount() == 0) return problem("it cannot be read, or is empty", path);
        if (head.find("ISO-10303-21") == std::string::npos)
            return problem("it is no STEP file", path, "Its first line says ISO-10303-21");
    }
    Handle(TDocStd_Document) document = new TDocStd_Document("BinXCAF");
    XCAFDoc_DocumentTool::Set(document->Main());
    // What is in it is mm, whatever the file says.
    XCAFDoc_DocumentTool::SetLengthUnit(document, 0.001);
    STEPCAFControl_Reader reader;
    Interface_Static::SetCVal("xstep.cascade.unit", "MM");
    reader.SetColorMode(true);
    reader.SetNameMode(true);
    if (reader.ReadFile(path.c_str()) != IFSelect_RetDone)
        return problem("it is cut off or broken", path, "Save it again");
    progress(0.2);
    Handle(Telling) telling = new Telling([&](double share) { progress(0.2 + 0.5 * share); });
    if (!reader.Transfer(document, telling->Start()))
        return problem("nothing in it could be made into a shape", path, "Save it again, as AP214");
    Read read;
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
    Walk walk(shapes, colours, read);
    walk.all();
    if (read.bodies.empty())
        return problem(walk.wires > 0 ? "there is no solid in it, only lines" : "there is no solid in it", path,
                       "Save the part as a solid");
    if (walk.tooMany)
        read.notes.push_back("it has more than " + std::to_string(kMostBodies) + " bodies: the rest is left out");
    if (walk.surfaces > 0)
        read.notes.push_back(std::to_string(walk.surfaces) +
                             " faces belong to no solid: they are shown, but hold no volume");
    if (!namesUnit(path)) read.notes.push_back("it names no unit of length: mm is taken");
    return read;
}

}  // namespace punch::kernel
