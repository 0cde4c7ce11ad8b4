#include "core/measure/instruments.h"

#include <algorithm>

namespace punch {

const std::vector<Instrument>& instruments() {
    static const std::vector<Instrument> table = {
        //  name            words                     step   limit  long   edge   same  by eye
        {"caliper-0.01", "digital caliper 0.01 mm", 0.01, 0.02, 0.03, 0.01, 0.03, 0.10},
        {"vernier-0.02", "vernier caliper 0.02 mm", 0.02, 0.03, 0.03, 0.02, 0.04, 0.12},
        {"vernier-0.05", "vernier caliper 0.05 mm", 0.05, 0.05, 0.05, 0.02, 0.04, 0.12},
        {"micrometer", "micrometer", 0.001, 0.004, 0.004, 0.003, 0.003, 0.003},
        {kGridSteps, "steps of a known grid", 0, 0.10, 0.10, 0, 0, 0},
        {kProtractor, "protractor 0.5 degrees", 0.5, 0.5, 0.5, 0.3, 0.3, 0.5},
        {"ruler", "steel ruler", 0.5, 0.10, 0.10, 0.20, 0.20, 0.25},
    };
    return table;
}

const Instrument* instrumentByName(const Part& part, std::string_view name) {
    for (const std::vector<Instrument>* all : {&part.instruments, &instruments()})
        for (const Instrument& i : *all)
            if (i.name == name) return &i;
    return nullptr;
}

Handling handlingOf(Contact contact) {
    switch (contact) {
        case Contact::Centres: return Handling::SameEdge;
        case Contact::FaceCentre: return Handling::ByEye;
        default: return Handling::EdgeToEdge;
    }
}

double startingHandling(const Instrument& instrument, Handling handling) {
    switch (handling) {
        case Handling::SameEdge: return instrument.sameEdge;
        case Handling::ByEye: return instrument.byEye;
        case Handling::EdgeToEdge: break;
    }
    return instrument.edge;
}

}  // namespace punch
