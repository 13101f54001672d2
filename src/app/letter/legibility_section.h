// Whether the words in hand can be read: how high their letters are, how small they may be shown, and how
// they stand out from what is really behind them.
#pragma once

#include "app/figures/layer_section.h"
#include "app/widgets/miniature.h"
#include "render/legible/legibility.h"

#include <QFutureWatcher>

namespace glyptos {

class LegibilitySection : public LayerSection {
    Q_OBJECT
  public:
    LegibilitySection(Engine& engine, RenderService& service);
    /// Whether the contrast shown is of what is shown.
    bool isMeasured() const { return isMeasured_; }

  protected:
    bool fits(const Layer& layer) const override { return layer.as<TextContent>(); }
    void refresh(const Layer& layer) override;

  private:
    void ask(const Layer& layer);
    void measure();
    void say();
    ReleasePtr without(const Layer& layer) const;

    struct Asked {
        std::shared_ptr<const Paragraph> set;
        Affine toPicture;
        Rgba ink;
        bool operator==(const Asked&) const = default;
    };
    Miniature behind_;
    Asked asked_;
    ReleasePtr release_; ///< that was asked for last
    std::string layer_;
    QFutureWatcher<Result<std::optional<EdgeContrast>>> measuring_;
    std::optional<EdgeContrast> contrast_;
    QString heights_;
    QLabel* note_;
    bool isMeasured_ = false;
};

} // namespace glyptos
