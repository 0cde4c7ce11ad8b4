#pragma once
// What nearly every unit of the bench reads: Qt's widgets, and what core/precompiled.h says. Read once, kept precompiled.

#include <QtWidgets>

#include "core/precompiled.h"
