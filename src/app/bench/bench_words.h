// Words on the Compose bench: added where they should stand, and typed right there.
#pragma once

#include "app/bench/words_editor.h"
#include "release/fields.h"

namespace glyptos {

class ComposeBench;

class BenchWords : public QObject {
    Q_OBJECT
  public:
    explicit BenchWords(ComposeBench& bench);
    /// Adds words at a point of the panel and takes them in hand; `share` is their size as a share of the
    /// panel's height.
    void add(const QString& name, const QString& words, Vec2 at, double share);
    /// Adds a text layer with a field of the brief, inside the safety line.
    void addField(const FieldInfo& field);
    /// Adds the small print of the panel.
    void addSmallPrint();
    /// Opens the words of the text layer in hand for typing.
    void edit(bool selectAll = false);
    bool isOpen() const { return editor_; }
    /// Keeps the editor under its words, so that they can be seen to change; closes it when another layer is
    /// in hand.
    void follow();

  private:
    void add(const QString& name, TextContent text, Vec2 at, double share);
    /// Ink or paper, whichever stands out at that point of the panel.
    Ink inkAt(Vec2 at) const;
    void addTracks(const FieldInfo& field, const Rect& room);

    ComposeBench& bench_;
    QPointer<WordsEditor> editor_;
};

} // namespace glyptos
