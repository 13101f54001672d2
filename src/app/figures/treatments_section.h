// The treatments of the layer in hand: the list, and the figures of one of them.
#pragma once

#include "app/bench/treatment_lens.h"
#include "app/figures/layer_section.h"
#include "app/figures/treatment_figures.h"
#include "app/figures/treatment_list.h"
#include "app/session/look_shelf.h"
#include "app/widgets/miniature.h"

#include <QMenu>

namespace glyptos {

class TreatmentsSection : public LayerSection {
    Q_OBJECT
  public:
    TreatmentsSection(Engine& engine, RenderService& service, LookShelf& looks);
    TreatmentList* list() const { return list_; }
    TreatmentFigures* figures() const { return figures_; }
    QMenu* addMenu() const { return addMenu_; }
    QToolButton* byPicture() const { return byPicture_; }
    QToolButton* papers() const { return papers_; }
    QMenu* matchMenu() const { return matchMenu_; }
    /// Row of the list whose figures show, or -1.
    int current() const { return current_; }
    /// Shows the figures of a row.
    void choose(int row);
    /// Another treatment of the layer in hand, behind the one whose figures show.
    void add(const TreatmentKind& kind);
    /// Look tables of files, each as a treatment behind those that the layer in hand has.
    void addTables(const QStringList& files);
    /// Adds a point to the curve in hand at the tone of a colour that was clicked.
    void addCurvePoint(const QColor& colour, Vec2 at);
    /// A colour that was clicked; of a figure that is a hue, that of what was there before the treatment.
    void setColour(size_t figure, const QColor& colour, Vec2 at);

  Q_SIGNALS:
    void sheetAsked();
    void curvePointPickAsked();
    void colourPickAsked(size_t figure);
    void restToggled(bool rest);
    void beforeChosen(glyptos::TreatmentLens::Before before);
    void currentChanged();

  protected:
    bool fits(const Layer&) const override { return true; }
    void refresh(const Layer& layer) override;

  private:
    using ListChange = std::function<void(Treatments&)>;
    QToolButton* makeBefore();
    void makeAddMenu();
    void makeListMenu();
    void makeCommon(QFormLayout* form);
    void changeList(const QString& name, const ListChange& edit, bool settled = true,
                    const QString& merge = {});
    void changeOne(const QString& name, const std::function<void(Treatment&)>& edit, bool settled = true,
                   const QString& merge = {});
    void setFigure(size_t figure, const FigureValue& value, bool settled);
    void remove(int row);
    void copyAll();
    void paste();
    void keepAsLook();
    void fillLooks(QMenu* menu);
    void addLook(const NamedLook& look);
    void chooseLookFile(size_t figure);
    void writeTable();
    void takePath(size_t figure);
    /// What the treatment in hand acts on, its longer side `side` px, and its way from the panel.
    void askBefore(Miniature& picture, double side, Affine& toPx);
    void askHistogram();
    void showHistogram();
    void makeMaskMenu();
    void showFromPictures(const Treatment& shown);
    void setByPicture();
    void makeMatchMenu();
    void matchTo(const Layer& picture, const Rect& area, const QString& name);
    void matchToFile();
    void askPapers();
    void keepPapers();
    void setMatch(const QString& name, std::vector<Rgba> reference);
    /// What was there before the treatment, where that is known; else as it is now.
    QColor beneathAt(Vec2 at, const QColor& shown) const;
    const Treatment* shownTreatment() const;
    /// The layer in hand and the row whose figures show.
    std::pair<std::string, int> inHand() const { return {layer_, current_}; }
    double unitHere() const; ///< in a mm
    double shorterSide() const;
    FigureSurroundings surroundings() const;

    QToolButton *add_, *more_, *sheet_;
    QMenu *addMenu_, *moreMenu_, *maskMenu_;
    TreatmentList* list_;
    TreatmentFigures* figures_;
    QLabel *empty_, *unknown_;
    QWidget* common_;
    QComboBox* blend_;
    NumberField* opacity_;
    QPushButton* mask_;
    LookShelf& looks_;
    QWidget* fromPictures_; ///< figures that a picture can set
    QToolButton *byPicture_, *match_, *papers_;
    Miniature toCut_; ///< what is cut into papers that are kept
    Affine toCutPx_;  ///< from the panel to its px
    LayerPtr cut_;    ///< the layer that was asked about
    Figures cutFigures_;
    QMenu* matchMenu_;
    Miniature reference_; ///< whose colours are to be matched
    QString referenceName_;
    std::pair<std::string, int> matched_; ///< which treatment asked for that
    Miniature before_;                    ///< what the treatment in hand acts on
    Affine toBefore_;                     ///< from the panel to its px
    std::string layer_;
    int current_ = -1;
};

} // namespace glyptos
