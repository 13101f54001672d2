// Groups of forms as the interface names them.
#pragma once

#include "form/form.h"

#include <QCoreApplication>
#include <QString>

namespace glyptos {

inline QString formGroupWord(FormGroup group) {
    switch (group) {
    case FormGroup::Disc:
        return QCoreApplication::translate("Forms", "Disc");
    case FormGroup::Record:
        return QCoreApplication::translate("Forms", "Record");
    case FormGroup::Cassette:
        return QCoreApplication::translate("Forms", "Cassette");
    default:
        return QCoreApplication::translate("Forms", "Screen");
    }
}

} // namespace glyptos
