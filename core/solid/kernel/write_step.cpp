#include <Interface_Static.hxx>
#include <Quantity_Color.hxx>
#include <STEPCAFControl_Writer.hxx>
#include <STEPControl_Controller.hxx>
#include <TDataStd_Name.hxx>
#include <TDocStd_Document.hxx>
#include <TopExp_Explorer.hxx>
#include <XCAFDoc_ColorTool.hxx>
#include <XCAFDoc_DocumentTool.hxx>
#include <XCAFDoc_ShapeTool.hxx>
#include <filesystem>

#include "core/solid/kernel/kernel.h"

namespace punch::kernel {
namespace {

Quantity_Color colourOf(Colour c) {
    const auto part = [&](int shift) { return static_cast<double>(c >> shift & 0xFF) / 255; };
    return {part(16), part(8), part(0), Quantity_TOC_sRGB};
}

TCollection_ExtendedString text(const std::string& utf8) { return {utf8.c_str(), true}; }

}  // namespace

Result<void> writeStep(const std::vector<Body>& bodies, const SolidsToMake& how, const std::string& path) {
    Handle(TDocStd_Document) document = new TDocStd_Document("BinXCAF");
    XCAFDoc_DocumentTool::Set(document->Main());
    const Handle(XCAFDoc_ShapeTool) shapes = XCAFDoc_DocumentTool::ShapeTool(document->Main());
    const Handle(XCAFDoc_ColorTool) colours = XCAFDoc_DocumentTool::ColorTool(document->Main());
    const TDF_Label whole = shapes->NewShape();
    TDataStd_Name::Set(whole, text(how.name));
    for (const Body& b : bodies) {
        const TDF_Label label = shapes->AddShape(b.shape, false);
        TDataStd_Name::Set(label, text(b.name));
        if (b.colour != kNoColour) colours->SetColor(label, colourOf(b.colour), XCAFDoc_ColorSurf);
        std::size_t k = 0;
        for (TopExp_Explorer e(b.shape, TopAbs_FACE); e.More() && k < b.faceColours.size(); e.Next(), ++k)
            if (b.faceColours[k] != kNoColour)
                colours->SetColor(shapes->AddSubShape(label, e.Current()), colourOf(b.faceColours[k]),
                                  XCAFDoc_ColorSurf);
        TDataStd_Name::Set(shapes->AddComponent(whole, label, TopLoc_Location()), text(b.name));
    }
    shapes->UpdateAssemblies();
    // What is set before the settings are defined is lost; what is set after the writer began is only half of it: it
    // would name the unit, and write the numbers of the one before.
    STEPControl_Controller::Init();
    const char* schema = how.schema == StepSchema::Ap203   ? "AP203"
                         : how.schema == StepSchema::Ap242 ? "AP242DIS"
                                                           : "AP214IS";
    if (!Interface_Static::SetCVal("write.step.schema", schema) ||
        !Interface_Static::SetCVal("write.step.unit", how.inches ? "INCH" : "MM"))
        return problem("its unit could not be chosen", path);
    STEPCAFControl_Writer writer;
    writer.SetColorMode(true);
    writer.SetNameMode(true);
    if (!writer.Transfer(document, STEPControl_AsIs)) return problem("it could not be made into STEP", path);
    // Whole or not at all.
    const std::string part = path + ".part";
    std::error_code error;
    if (writer.Write(part.c_str()) != IFSelect_RetDone) {
        std::filesystem::remove(part, error);
        return problem("it cannot be written", path, "Choose another folder");
    }
    std::filesystem::rename(part, path, error);
    if (error) {
        std::filesystem::remove(part, error);
        return problem("it cannot be written", path, "Choose another folder");
    }
    return {};
}

}  // namespace punch::kernel
