#include "app/view_state.h"

namespace punch {

Station stationOf(GaugeHome home) {
    switch (home) {
        case GaugeHome::Place: return Station::Place;
        case GaugeHome::Size: return Station::Size;
        case GaugeHome::Dress: return Station::Dress;
        case GaugeHome::Fit: return Station::Fit;
        case GaugeHome::Release: return Station::Release;
        case GaugeHome::Measure: break;
    }
    return Station::Measure;
}

QString stationName(Station station) {
    static const char* const names[] = {"Measure", "Place", "Size", "Dress", "Fit", "Release"};
    return QString::fromLatin1(names[static_cast<int>(station)]);
}

QString lensName(Lens lens) {
    static const char* const names[] = {"Copper", "Readings", "Doubt", "Voltage", "Body", "Ink", "Courtyard", "Source"};
    return QString::fromLatin1(names[static_cast<int>(lens)]);
}

void ViewState::setStation(Station s) {
    station_ = s;
    cutting_.reset();
    // Each station brings the lenses that its work needs; all stay the user's to switch.
    const bool measuring = s == Station::Measure || s == Station::Place;
    lenses_[static_cast<int>(Lens::Readings)] = measuring;
    lenses_[static_cast<int>(Lens::Voltage)] = s == Station::Size;
    lenses_[static_cast<int>(Lens::Copper)] = true;
    lenses_[static_cast<int>(Lens::Body)] = true;
    emit stationChanged();
    emit changed();
}

}  // namespace punch
