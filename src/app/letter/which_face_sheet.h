// Which face is this? Words marked in a picture, what they say, and the faces that are nearest, drawn over
// them.
#pragma once

#include "app/letter/sample_view.h"
#include "app/session/document.h"

#include <QComboBox>
#include <QDialog>
#include <QLabel>
#include <QLineEdit>
#include <QListWidget>
#include <QPushButton>

namespace glyptos {

class Engine;

class WhichFaceSheet : public QDialog {
    Q_OBJECT
  public:
    /// Begins with a picture of the release, when there is one of that id, else with the first.
    WhichFaceSheet(Engine& engine, Document& document, const std::string& source, QWidget* parent);
    void readFile(const QString& file);
    SampleView* view() const { return view_; }
    /// Nothing is being read or compared.
    bool isSettled() const { return !reading_ && !finding_; }

  private:
    QWidget* makeSide();
    void choosePicture(int index);
    void askFile();
    void show(const Result<QImage>& picture, int round);
    void find();
    struct Found {
        std::vector<FaceMatch> matches;
        IntRect ink; ///< of the sample
    };
    void showMatches(const Found& found);
    void compare(int row);
    void take();
    LayerPtr words() const;
    void refresh();

    Engine& engine_;
    Document& document_;
    SampleView* view_;
    QComboBox* pictures_;
    QLineEdit* says_;
    QPushButton *find_, *take_;
    QListWidget* found_;
    QLabel* note_;
    std::vector<FaceMatch> matches_;
    IntRect ink_;
    QString wrong_; ///< with the picture
    int reading_ = 0, finding_ = 0, round_ = 0, pictureRound_ = 0;
};

} // namespace glyptos
