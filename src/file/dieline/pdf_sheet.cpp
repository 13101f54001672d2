#include "base/units.h"
#include "file/dieline/sheet_reading.h"

#include <qpdf/QPDF.hh>
#include <qpdf/QPDFExc.hh>
#include <qpdf/QPDFPageDocumentHelper.hh>
#include <qpdf/QPDFPageObjectHelper.hh>
#include <qpdf/QPDFWriter.hh>

#include <cmath>
#include <map>

namespace glyptos {
namespace {

constexpr int kDeepestForm = 12; // forms in forms
constexpr size_t kMostOperators = 5'000'000;

/// What a line is drawn with (ISO 32000-1, 8.4).
struct State {
    Affine toMm;
    std::string ink; ///< of strokes: the name of a separation, or nothing
};

/// Walks the operators of a page (ISO 32000-1, annex A) and keeps the paths that are stroked.
class Interpreter : public QPDFObjectHandle::ParserCallbacks {
  public:
    Interpreter(PrintersSheet& sheet, size_t& points, const Affine& toMm, QPDFObjectHandle resources,
                int depth, size_t& operators, std::vector<std::string> layers)
        : sheet_(sheet)
        , points_(points)
        , operators_(operators)
        , resources_(std::move(resources))
        , depth_(depth)
        , state_{toMm, {}}
        , layers_(std::move(layers)) {}

    void handleObject(QPDFObjectHandle object) override {
        if (!object.isOperator()) {
            operands_.push_back(object);
            return;
        }
        if (++operators_ > kMostOperators) throw NoSheet("it has over five million operators");
        act(object.getOperatorValue());
        operands_.clear();
    }
    void handleEOF() override {}

  private:
    double number(size_t i) {
        return i < operands_.size() && operands_[i].isNumber() ? operands_[i].getNumericValue() : 0;
    }
    Vec2 point(size_t i) { return {number(i), number(i + 1)}; }
    bool has(size_t count) const { return operands_.size() >= count; }

    void act(const std::string& op) {
        if (op == "q") return stack_.push_back(state_);
        if (op == "Q") {
            if (!stack_.empty()) state_ = stack_.back(), stack_.pop_back();
            return;
        }
        if (op == "cm" && has(6)) {
            state_.toMm =
                state_.toMm * Affine{number(0), number(1), number(2), number(3), number(4), number(5)};
            return;
        }
        if (build(op) || paint(op) || colour(op)) return;
        if (op == "BDC") return layers_.push_back(layerName());
        if (op == "BMC") return layers_.push_back({});
        if (op == "EMC" && !layers_.empty()) return layers_.pop_back();
        if (op == "Do" && has(1) && operands_[0].isName()) form(operands_[0].getName());
    }

    /// Operators that make a path; whether it was one.
    bool build(const std::string& op) {
        if (op == "m" && has(2)) {
            here_ = start_ = point(0);
            path_.moveTo(here_);
            begun_ = true;
        } else if (op == "l" && has(2) && begun_) {
            path_.lineTo(here_ = point(0));
        } else if (op == "c" && has(6) && begun_) {
            path_.cubicTo(point(0), point(2), point(4));
            here_ = point(4);
        } else if (op == "v" && has(4) && begun_) {
            path_.cubicTo(here_, point(0), point(2));
            here_ = point(2);
        } else if (op == "y" && has(4) && begun_) {
            path_.cubicTo(point(0), point(2), point(2));
            here_ = point(2);
        } else if (op == "h" && begun_) {
            path_.lineTo(here_ = start_);
        } else if (op == "re" && has(4)) {
            const Vec2 at = point(0), size = point(2);
            path_.moveTo(at), path_.lineTo({at.x + size.x, at.y});
            path_.lineTo(at + size), path_.lineTo({at.x, at.y + size.y}), path_.lineTo(at);
            here_ = start_ = at, begun_ = true;
        } else {
            return false;
        }
        return true;
    }

    bool paint(const std::string& op) {
        const bool closes = op == "s" || op == "b" || op == "b*";
        const bool strokes = closes || op == "S" || op == "B" || op == "B*";
        if (!strokes && op != "f" && op != "F" && op != "f*" && op != "n") return false;
        if (closes && begun_) path_.lineTo(start_);
        if (strokes && !path_.empty()) {
            Path mm;
            mm.append(path_, state_.toMm);
            addLines(sheet_, mm, name(), points_);
        }
        path_ = {};
        begun_ = false;
        return true;
    }

    bool colour(const std::string& op) {
        if (op == "CS" && has(1) && operands_[0].isName())
            state_.ink = inkNamed(operands_[0].getName());
        else if (op == "G" || op == "RG" || op == "K")
            state_.ink.clear();
        else
            return false;
        return true;
    }

    /// The ink that says what the line is for, else the innermost layer that does, else either.
    std::string name() const {
        if (dielineRole(state_.ink) != DielineRole::Other) return state_.ink;
        for (auto it = layers_.rbegin(); it != layers_.rend(); ++it)
            if (dielineRole(*it) != DielineRole::Other) return *it;
        if (!state_.ink.empty()) return state_.ink;
        for (auto it = layers_.rbegin(); it != layers_.rend(); ++it)
            if (!it->empty()) return *it;
        return {};
    }

    QPDFObjectHandle resource(const char* kind, const std::string& name) {
        QPDFObjectHandle all =
            resources_.isDictionary() ? resources_.getKey(kind) : QPDFObjectHandle::newNull();
        return all.isDictionary() ? all.getKey(name) : QPDFObjectHandle::newNull();
    }

    std::string inkNamed(const std::string& space) {
        QPDFObjectHandle found = resource("/ColorSpace", space);
        if (!found.isArray() || found.getArrayNItems() < 2 || !found.getArrayItem(0).isName()) return {};
        const std::string kind = found.getArrayItem(0).getName();
        QPDFObjectHandle of = found.getArrayItem(1);
        if (kind == "/DeviceN" && of.isArray() && of.getArrayNItems() == 1)
            of = of.getArrayItem(0);
        else if (kind != "/Separation")
            return {};
        return of.isName() ? of.getName().substr(1) : std::string();
    }

    /// Of content that belongs to a layer (ISO 32000-1, 8.11).
    std::string layerName() {
        if (!has(2) || !operands_[0].isName() || operands_[0].getName() != "/OC" || !operands_[1].isName())
            return {};
        return nameOf(resource("/Properties", operands_[1].getName()));
    }
    static std::string nameOf(QPDFObjectHandle layer) {
        if (!layer.isDictionary()) return {};
        QPDFObjectHandle name = layer.getKey("/Name");
        if (name.isString()) return name.getUTF8Value();
        QPDFObjectHandle members = layer.getKey("/OCGs");
        if (members.isArray() && members.getArrayNItems() > 0) members = members.getArrayItem(0);
        return members.isDictionary() && members.getKey("/Name").isString()
                   ? members.getKey("/Name").getUTF8Value()
                   : std::string();
    }

    void form(const std::string& name) {
        QPDFObjectHandle object = resource("/XObject", name);
        if (!object.isStream() || depth_ >= kDeepestForm) return;
        QPDFObjectHandle dict = object.getDict();
        if (!dict.getKey("/Subtype").isName() || dict.getKey("/Subtype").getName() != "/Form") return;
        Affine map = state_.toMm;
        if (QPDFObjectHandle m = dict.getKey("/Matrix"); m.isArray() && m.getArrayNItems() == 6) {
            double v[6];
            for (int i = 0; i < 6; ++i)
                v[i] = m.getArrayItem(i).isNumber() ? m.getArrayItem(i).getNumericValue() : 0;
            map = map * Affine{v[0], v[1], v[2], v[3], v[4], v[5]};
        }
        QPDFObjectHandle own = dict.getKey("/Resources");
        std::vector<std::string> layers = layers_;
        if (std::string layer = nameOf(dict.getKey("/OC")); !layer.empty())
            layers.push_back(std::move(layer));
        Interpreter inside(sheet_, points_, map, own.isDictionary() ? own : resources_, depth_ + 1,
                           operators_, std::move(layers));
        inside.state_.ink = state_.ink;
        object.parseAsContents(&inside);
    }

    PrintersSheet& sheet_;
    size_t& points_;
    size_t& operators_;
    QPDFObjectHandle resources_;
    int depth_;
    State state_;
    std::vector<State> stack_;
    std::vector<std::string> layers_;
    std::vector<QPDFObjectHandle> operands_;
    Path path_;
    Vec2 here_, start_;
    bool begun_ = false;
};

/// The box that is printed, turned as the page is.
Affine pageToMm(QPDFPageObjectHelper& page, PrintersSheet& sheet) {
    const auto box = page.getMediaBox().getArrayAsRectangle();
    double unit = kMmPerInch / kPtPerInch;
    if (QPDFObjectHandle user = page.getObjectHandle().getKey("/UserUnit"); user.isNumber())
        unit *= user.getNumericValue();
    const double w = (box.urx - box.llx) * unit, h = (box.ury - box.lly) * unit;
    if (!(w > 1 && h > 1 && w < 20000 && h < 20000)) throw NoSheet("its page has no sensible size");
    const Affine upright = Affine{unit, 0, 0, -unit, -box.llx * unit, box.ury * unit};
    QPDFObjectHandle rotate = page.getAttribute("/Rotate", false);
    const int turn = rotate.isInteger() ? int(((rotate.getIntValue() % 360) + 360) % 360) : 0;
    const Affine turned = Affine::rotation(turn);
    const Rect all = turned.mapBounds({0, 0, w, h});
    sheet.width = all.w, sheet.height = all.h;
    return Affine::translation(-all.x, -all.y) * turned * upright;
}

std::vector<uint8_t> alone(QPDF& pdf, QPDFPageObjectHelper page) {
    QPDF one;
    one.emptyPDF();
    QPDFPageDocumentHelper(one).addPage(page, true);
    QPDFWriter writer(one);
    writer.setOutputMemory();
    writer.setDeterministicID(true);
    writer.write();
    const auto bytes = writer.getBufferSharedPointer();
    (void)pdf;
    return {bytes->getBuffer(), bytes->getBuffer() + bytes->getSize()};
}

} // namespace

PrintersSheet readPdfSheet(std::span<const uint8_t> bytes, size_t number) {
    QPDF pdf;
    pdf.setSuppressWarnings(true);
    try {
        pdf.processMemoryFile("sheet", reinterpret_cast<const char*>(bytes.data()), bytes.size());
    } catch (const QPDFExc& e) {
        throw NoSheet(e.getErrorCode() == qpdf_e_password ? "it is locked with a password" : "it is damaged");
    }
    PrintersSheet sheet;
    sheet.format = "pdf";
    auto pages = QPDFPageDocumentHelper(pdf).getAllPages();
    sheet.pages = pages.size();
    if (number >= pages.size())
        throw NoSheet("it has " + std::to_string(pages.size()) + " pages and no page " +
                      std::to_string(number + 1));
    QPDFPageObjectHelper page = pages[number];
    const Affine toMm = pageToMm(page, sheet);
    size_t points = 0, operators = 0;
    Interpreter walk(sheet, points, toMm, page.getAttribute("/Resources", false), 0, operators, {});
    try {
        page.parseContents(&walk);
    } catch (const QPDFExc&) {
        throw NoSheet("its page is damaged");
    }
    sheet.bytes = alone(pdf, page);
    return sheet;
}

} // namespace glyptos
