// What a face can do besides its plain letters: each with the words as they look with it.
#pragma once

#include "type/faces/face_features.h"

#include <QToolButton>
#include <QWidget>

class QVBoxLayout;

namespace glyptos {

class FeatureList : public QWidget {
    Q_OBJECT
  public:
    explicit FeatureList(const FontLibrary& fonts, QWidget* parent = nullptr);
    /// Of these words in their face.
    void show(const TextSpec& words);

  Q_SIGNALS:
    void switched(const glyptos::FaceFeature& feature, bool on);

  private:
    void makeRows(const std::vector<FaceFeature>& features);
    const FontLibrary& fonts_;
    QVBoxLayout* rows_;
    std::vector<std::pair<FaceFeature, QToolButton*>> buttons_;
};

} // namespace glyptos
