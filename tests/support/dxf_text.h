#pragma once
// DXF written group by group, for tests; and a PDF that asks for a password.

#include <fmt/format.h>

#include <string>

namespace punch::test {

class DxfText {
public:
    DxfText& section(const std::string& name) { return add(0, "SECTION").add(2, name); }
    DxfText& end() { return add(0, "ENDSEC"); }
    template <class T>
    DxfText& add(int code, const T& value) {
        text_ += fmt::format("{}\n{}\n", code, value);
        return *this;
    }
    std::string text() const { return text_ + "0\nEOF\n"; }

private:
    std::string text_;
};

/// Standard security handler, revision 2, with keys that belong to no empty password.
inline std::string lockedPdf() {
    std::string out = "%PDF-1.4\n";
    std::string table;
    int count = 0;
    const auto object = [&](const std::string& body) {
        table += fmt::format("{:010d} 00000 n \n", out.size());
        out += fmt::format("{} 0 obj\n{}\nendobj\n", ++count, body);
    };
    object("<< /Type /Catalog /Pages 2 0 R >>");
    object("<< /Type /Pages /Kids [3 0 R] /Count 1 >>");
    object("<< /Type /Page /Parent 2 0 R /MediaBox [0 0 100 100] >>");
    const std::string key(64, 'A');
    object(fmt::format("<< /Filter /Standard /V 1 /R 2 /O <{}> /U <{}> /P -4 >>", key, key));
    const std::size_t at = out.size();
    const std::string id(32, 'B');
    out += fmt::format(
        "xref\n0 5\n0000000000 65535 f \n{}trailer\n<< /Size 5 /Root 1 0 R /Encrypt 4 0 R /ID [<{}> <{}>] "
        ">>\nstartxref\n{}\n%%EOF\n",
        table, id, id, at);
    return out;
}

}  // namespace punch::test
