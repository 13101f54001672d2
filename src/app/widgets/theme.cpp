#include "app/widgets/theme.h"

#include "file/data_folder.h"

#include <QApplication>
#include <QFontDatabase>
#include <QPalette>
#include <QStyleFactory>

/// Resources of a static library are linked in by asking for them, outside any namespace.
static void loadIcons() {
    Q_INIT_RESOURCE(icons);
}

namespace glyptos {
namespace {

struct Look {
    Theme theme = Theme::day();
    bool night = false;
};

Look& look() {
    static Look current;
    return current;
}

QString sheetFor(const Theme& t) {
    QString css = QStringLiteral(R"(
QWidget { color: $ink; }
QMainWindow, QDialog, QScrollArea, QScrollArea > QWidget > QWidget { background: $paper; }
QMenuBar { background: $sheet; padding: 1px 6px; border-bottom: 1px solid $line; }
QMenuBar::item { padding: 4px 9px; border-radius: 5px; background: transparent; }
QMenuBar::item:selected { background: $line; }
QMenu { background: $sheet; border: 1px solid $line; padding: 4px; }
QMenu::item { padding: 5px 24px 5px 14px; border-radius: 5px; }
QMenu::item:selected { background: $wash; }
QMenu::item:disabled { color: $soft; }
QMenu::separator { height: 1px; background: $line; margin: 4px 8px; }
QStatusBar { background: $sheet; color: $soft; border-top: 1px solid $line; }
QStatusBar::item { border: none; }
QToolTip { background: $sheet; color: $ink; border: 1px solid $line; padding: 4px; }
QLabel[role="heading"] { color: $soft; font-weight: 600; }
QLabel[role="title"] { font-size: 17px; font-weight: 700; }
QLabel[role="soft"] { color: $soft; }
QLabel[role="good"] { color: $accent; font-weight: 600; }
QLabel[role="caution"] { color: $caution; font-weight: 600; }
QLabel[role="fault"] { color: $fault; font-weight: 600; }
QLineEdit, QPlainTextEdit, QComboBox, QAbstractSpinBox { background: $sheet; border: 1px solid $line; border-radius: 6px; padding: 3px 7px; selection-background-color: $accent; selection-color: $sheet; }
QLineEdit:focus, QPlainTextEdit:focus, QComboBox:focus { border: 1px solid $accent; }
QLineEdit[wrong="true"] { border: 1px solid $fault; }
QComboBox::drop-down { border: none; width: 18px; }
QComboBox QAbstractItemView { background: $sheet; border: 1px solid $line; selection-background-color: $wash; selection-color: $ink; }
QPushButton { background: $sheet; border: 1px solid $line; border-radius: 6px; padding: 4px 11px; }
QPushButton:hover { border-color: $soft; }
QPushButton:focus { border: 1px solid $accent; }
QPushButton:pressed, QPushButton:checked { background: $wash; border-color: $accent; }
QPushButton:disabled { color: $soft; }
QPushButton[role="main"] { background: $accent; color: $paper; border-color: $accent; font-weight: 600; }
QPushButton[role="main"]:disabled { background: $line; color: $soft; border-color: $line; }
QToolButton { background: transparent; border: none; border-radius: 6px; padding: 4px 9px; }
QToolButton:hover { background: $line; }
QToolButton:checked { background: $ink; color: $sheet; }
QToolButton::menu-indicator { image: none; width: 0; }
#benchBar { background: $sheet; border: 1px solid $line; border-radius: 8px; }
QToolButton:focus { border: 1px solid $accent; }
QListView { background: $sheet; border: 1px solid $line; border-radius: 6px; selection-background-color: $wash; selection-color: $ink; outline: none; }
QTableView { background: $sheet; border: 1px solid $line; border-radius: 6px; gridline-color: $line; selection-background-color: $wash; selection-color: $ink; }
QHeaderView::section { background: $paper; color: $soft; border: none; border-bottom: 1px solid $line; padding: 4px 7px; }
QScrollBar:vertical { background: transparent; width: 9px; } QScrollBar:horizontal { background: transparent; height: 9px; }
QScrollBar::handle { background: $line; border-radius: 4px; min-height: 24px; min-width: 24px; }
QScrollBar::add-line, QScrollBar::sub-line { height: 0; width: 0; }
QScrollBar::add-page, QScrollBar::sub-page { background: transparent; }
QSlider::groove:horizontal { height: 3px; background: $line; border-radius: 1px; }
QSlider::sub-page:horizontal { background: $accent; border-radius: 1px; }
QSlider::handle:horizontal { width: 11px; margin: -5px 0; border-radius: 6px; background: $sheet; border: 2px solid $accent; }
QCheckBox::indicator { width: 13px; height: 13px; border: 1px solid $soft; border-radius: 4px; background: $sheet; }
QCheckBox::indicator:checked { background: $accent; border-color: $accent; image: url(:/icons/check.svg); }
QComboBox::down-arrow { image: url(:/icons/unfold.svg); width: 12px; height: 12px; }
QTableView::item { padding: 0 6px; }
QProgressBar { border: 1px solid $line; border-radius: 6px; background: $sheet; text-align: center; }
QProgressBar::chunk { background: $accent; border-radius: 5px; }
)");
    const std::pair<const char*, QColor> names[] = {
        {"$ink", t.ink},         {"$paper", t.paper},  {"$sheet", t.sheet},
        {"$line", t.hairline},   {"$soft", t.softInk}, {"$accent", t.accent},
        {"$wash", t.accentWash}, {"$fault", t.fault},  {"$caution", t.caution}};
    for (const auto& [name, colour] : names) css.replace(QLatin1String(name), colour.name());
    return css;
}

void loadInterfaceFonts() {
    static const bool loaded = [] {
        for (const char* face : {"Regular", "Medium", "SemiBold", "Bold"})
            QFontDatabase::addApplicationFont(QString::fromStdString(
                (dataFolder() / "fonts" / "inter" / (std::string("Inter-") + face + ".otf")).string()));
        return true;
    }();
    (void)loaded;
}

} // namespace

Theme Theme::day() {
    return {QColor("#F4F1EA"), QColor("#FBFAF6"), QColor("#D9D3C6"), QColor("#22211F"), QColor("#6F6A60"),
            QColor("#1E7A6C"), QColor("#DCEBE6"), QColor("#C8452B"), QColor("#B9821B"), QColor("#6A4FA3"),
            QColor("#8B8B89"), QColor("#2B2A27"), QColor("#CFC9BC")};
}

Theme Theme::night() {
    return {QColor("#24231F"), QColor("#2E2D29"), QColor("#47443D"), QColor("#EFEBE1"), QColor("#A59F92"),
            QColor("#4FB3A2"), QColor("#23433D"), QColor("#E8775F"), QColor("#DDA94A"), QColor("#A48BDB"),
            QColor("#8B8B89"), QColor("#191815"), QColor("#A59F92")};
}

const Theme& theme() {
    return look().theme;
}
bool isNight() {
    return look().night;
}

QFont uiFont(int px, int weight) {
    QFont font(QStringLiteral("Inter"));
    font.setPixelSize(px);
    font.setWeight(static_cast<QFont::Weight>(weight));
    return font;
}

void applyTheme(QApplication& app, bool night) {
    loadIcons();
    loadInterfaceFonts();
    look() = {night ? Theme::night() : Theme::day(), night};
    const Theme& t = theme();
    app.setStyle(QStyleFactory::create(QStringLiteral("Fusion")));
    QPalette palette;
    palette.setColor(QPalette::Window, t.paper);
    palette.setColor(QPalette::WindowText, t.ink);
    palette.setColor(QPalette::Base, t.sheet);
    palette.setColor(QPalette::AlternateBase, t.paper);
    palette.setColor(QPalette::Text, t.ink);
    palette.setColor(QPalette::Button, t.sheet);
    palette.setColor(QPalette::ButtonText, t.ink);
    palette.setColor(QPalette::Highlight, t.accent);
    palette.setColor(QPalette::HighlightedText, t.sheet);
    palette.setColor(QPalette::PlaceholderText, t.softInk);
    app.setPalette(palette);
    app.setFont(uiFont());
    app.setStyleSheet(sheetFor(t));
}

} // namespace glyptos
