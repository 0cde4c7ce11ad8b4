#include "core/size/package_form.h"

#include <algorithm>
#include <iterator>

namespace punch {

const PackageForm* packageForm(std::string_view words) {
    static const PackageForm all[] = {{"chip", LeadForm::Chip, 1},
                                      {"gull wing, two sides", LeadForm::GullWing, 2},
                                      {"gull wing, four sides", LeadForm::GullWing, 4},
                                      {"J lead, two sides", LeadForm::JLead, 2},
                                      {"J lead, four sides", LeadForm::JLead, 4},
                                      {"flat lead, two sides", LeadForm::FlatLead, 2},
                                      {"no-lead, two sides", LeadForm::NoLead, 2},
                                      {"no-lead, four sides", LeadForm::NoLead, 4},
                                      {"half holes, two sides", LeadForm::Castellated, 2},
                                      {"half holes, four sides", LeadForm::Castellated, 4}};
    const auto* it =
        std::find_if(std::begin(all), std::end(all), [&](const PackageForm& p) { return words == p.words; });
    return it == std::end(all) ? nullptr : it;
}

}  // namespace punch
