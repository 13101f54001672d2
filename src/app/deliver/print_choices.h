// How a print file is made, as the artist chooses it.
#pragma once

#include "app/widgets/form_rows.h"
#include "file/print/print_job.h"

#include <QCheckBox>
#include <QComboBox>

namespace glyptos {

class PrintChoices : public QWidget {
    Q_OBJECT
  public:
    explicit PrintChoices(QWidget* parent = nullptr);
    /// Offers what there is to choose for that piece.
    void setPiece(const Piece& piece);
    /// The job; its profile is that of the file chosen, which is read by whoever writes.
    PrintJob job() const;
    QString profileFile() const { return profileFile_; } ///< empty: the one that is shipped
    void setProfileFile(const QString& file);

  Q_SIGNALS:
    void changed();

  private:
    QCheckBox* check(const QString& text, const QString& why);
    void askProfile(int index);

    QComboBox *format_, *profile_, *intent_;
    QCheckBox *blackPoint_, *pairs_, *apart_, *report_, *slug_, *dieline_, *white_, *sharpen_, *rich_;
    NumberField* richFrom_;
    QString profileFile_;
};

} // namespace glyptos
