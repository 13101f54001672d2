// A code: what it says, how large it is, its colours, and whether a scanner reads it.
#pragma once

#include "app/figures/layer_section.h"
#include "render/fit/code_verdicts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QFutureWatcher>
#include <QLineEdit>
#include <QTimer>

namespace glyptos {

class CodeSection : public LayerSection {
    Q_OBJECT
  public:
    explicit CodeSection(Engine& engine);
    ~CodeSection() override;
    /// Whether what it says of the code is of what is shown.
    bool isJudged() const { return judged_ == asked_ && !soon_.isActive() && !judging_.isRunning(); }

  protected:
    bool fits(const Layer& layer) const override { return layer.as<CodeContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void changeCode(const QString& name, const std::function<void(CodeContent&)>& edit, bool settled = true,
                    const QString& merge = {});
    void setScale(Layer& layer, double percent) const;
    void judge();

    QComboBox* kind_;
    QLineEdit* text_;
    NumberField* scale_;
    ColourButton *bars_, *ground_;
    QCheckBox* grounded_;
    QLabel* verdict_;
    QTimer soon_;
    ReleasePtr asked_, judged_;
    std::string layer_; ///< that was asked for last
    QFutureWatcher<Result<CodeVerdict>> judging_;
};

} // namespace glyptos
