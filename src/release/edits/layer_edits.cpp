#include "release/edits/edits.h"

#include "release/echo.h"
#include "release/edits/edit_steps.h"
#include "release/placing.h"
#include "release/same.h"
#include "release/walks.h"

#include <algorithm>

namespace glyptos {
namespace {

/// The release with the panel's stack rewritten; the same release when the piece is gone or nothing changed.
ReleasePtr withStack(const ReleasePtr& release, const PanelRef& panel,
                     const std::function<bool(Stack&, Release&)>& change) {
    const PiecePtr old = release->piece(panel.piece);
    if (!old || !old->flat->panel(panel.panel)) return release;
    auto next = std::make_shared<Release>(*release);
    auto piece = std::make_shared<Piece>(*old);
    auto take = std::make_shared<Take>(piece->take());
    const Stack& before = old->take().stack(panel.panel);
    if (Stack& stack = take->stacks[panel.panel]; !change(stack, *next) || sameStack(before, stack))
        return release;
    piece->takes[piece->current] = std::move(take);
    replacePiece(*next, old, std::move(piece));
    return next;
}

/// Runs `act` on the list that holds the layer `id`, at its index, copying the groups on the way. False when
/// not found.
bool atLayer(Stack& stack, const std::string& id, const std::function<void(Stack&, size_t)>& act) {
    for (size_t i = 0; i < stack.size(); ++i) {
        if (stack[i]->id == id) return act(stack, i), true;
        const auto* group = stack[i]->as<GroupContent>();
        if (!group || !findLayer(group->layers, id)) continue;
        auto copy = std::make_shared<Layer>(*stack[i]);
        atLayer(std::get<GroupContent>(copy->content).layers, id, act);
        stack[i] = std::move(copy);
        return true;
    }
    return false;
}

bool isGroup(const Stack& stack, const std::string& id) {
    const LayerPtr layer = findLayer(stack, id);
    return layer && layer->as<GroupContent>();
}

/// Id of the group that holds the layer directly; empty for the stack itself.
std::string parentOf(const Stack& stack, const std::string& id, const std::string& parent = {}) {
    for (const LayerPtr& layer : stack) {
        if (layer->id == id) return parent;
        if (const auto* group = layer->as<GroupContent>(); group && findLayer(group->layers, id))
            return parentOf(group->layers, id, layer->id);
    }
    return {};
}

/// Runs `act` on the list of that group, or on the stack itself when `group` is empty.
void inGroup(Stack& stack, const std::string& group, const std::function<void(Stack&)>& act) {
    if (group.empty()) return act(stack);
    atLayer(stack, group, [&](Stack& list, size_t i) {
        auto copy = std::make_shared<Layer>(*list[i]);
        act(std::get<GroupContent>(copy->content).layers);
        list[i] = std::move(copy);
    });
}

ReleasePtr actAt(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                 const std::function<void(Stack&, size_t, Release&)>& act) {
    return withStack(release, panel, [&](Stack& stack, Release& next) {
        return atLayer(stack, id, [&](Stack& list, size_t i) { act(list, i, next); });
    });
}

/// How deep groups are nested below and in `layer`; 0 for what is not a group.
int depthOf(const Layer& layer) {
    const auto* group = layer.as<GroupContent>();
    int deepest = 0;
    if (group)
        for (const LayerPtr& child : group->layers) deepest = std::max(deepest, depthOf(*child));
    return deepest + (group ? 1 : 0);
}

/// How many groups lie round the layer with that id.
int levelOf(const Stack& stack, const std::string& id) {
    int level = 0;
    for (std::string parent = parentOf(stack, id); !parent.empty(); parent = parentOf(stack, parent)) ++level;
    return level;
}

/// Takes all layers of the list out of the stack and hands them over, front to back.
void takeOut(Stack& stack, const std::vector<std::string>& ids, Stack& taken) {
    for (size_t i = 0; i < stack.size();) {
        if (std::find(ids.begin(), ids.end(), stack[i]->id) != ids.end()) {
            taken.push_back(stack[i]);
            stack.erase(stack.begin() + long(i));
            continue;
        }
        if (stack[i]->as<GroupContent>()) {
            auto copy = std::make_shared<Layer>(*stack[i]);
            takeOut(std::get<GroupContent>(copy->content).layers, ids, taken);
            stack[i] = std::move(copy);
        }
        ++i;
    }
}

/// Front to back, groups before what is in them.
void collectIds(const Stack& stack, std::vector<std::string>& out) {
    eachLayer(stack, [&](const LayerPtr& layer) { out.push_back(layer->id); });
}

} // namespace

Made withLayer(const ReleasePtr& release, const PanelRef& panel, Layer layer, const std::string& above) {
    Made made;
    made.release = withStack(release, panel, [&](Stack& stack, Release& next) {
        if (layer.id.empty()) renewIds(layer, next);
        made.id = layer.id;
        const auto added = std::make_shared<const Layer>(std::move(layer));
        // What is nested too deeply to go in there goes in front of everything.
        const bool fits = levelOf(stack, above) + depthOf(*added) <= kDeepestGroup;
        if (!fits || !atLayer(stack, above,
                              [&](Stack& list, size_t i) { list.insert(list.begin() + long(i), added); }))
            stack.insert(stack.begin(), added);
        return true;
    });
    return made;
}

ReleasePtr withoutLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& layer) {
    return actAt(release, panel, layer,
                 [](Stack& list, size_t i, Release&) { list.erase(list.begin() + long(i)); });
}

ReleasePtr withChangedLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                            const LayerChange& change) {
    return actAt(release, panel, id, [&](Stack& list, size_t i, Release&) {
        auto layer = std::make_shared<Layer>(*list[i]);
        change(*layer);
        layer->id = id;
        list[i] = std::move(layer);
    });
}

ReleasePtr withMovedLayer(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                          const std::string& group, size_t index) {
    const LayerPtr layer = findLayer(stackOf(*release, panel), id);
    if (!layer || id == group) return release;
    if (const auto* inside = layer->as<GroupContent>(); inside && findLayer(inside->layers, group))
        return release;
    return withStack(release, panel, [&](Stack& stack, Release&) {
        if (!group.empty() && !isGroup(stack, group)) return false;
        const int level = group.empty() ? 0 : levelOf(stack, group) + 1;
        if (level + depthOf(*layer) > kDeepestGroup) return false;
        const bool sameList = parentOf(stack, id) == group;
        atLayer(stack, id, [&](Stack& list, size_t i) {
            list.erase(list.begin() + long(i));
            if (sameList && i < index) --index;
        });
        inGroup(stack, group,
                [&](Stack& list) { list.insert(list.begin() + long(std::min(index, list.size())), layer); });
        return true;
    });
}

ReleasePtr withOrder(const ReleasePtr& release, const PanelRef& panel, const std::vector<std::string>& layers,
                     Nearer where) {
    std::vector<std::string> order;
    collectIds(stackOf(*release, panel), order);
    std::erase_if(order, [&](const std::string& id) {
        return std::find(layers.begin(), layers.end(), id) == layers.end();
    });
    // The last to be moved ends up outermost: the front-most to the front, the rearmost to the back.
    if (where == Nearer::Front || where == Nearer::OneBack) std::reverse(order.begin(), order.end());
    const auto moves = [&](const std::string& id) {
        return std::find(order.begin(), order.end(), id) != order.end();
    };
    ReleasePtr next = release;
    for (const std::string& id : order)
        next = withStack(next, panel, [&](Stack& stack, Release&) {
            bool moved = false;
            atLayer(stack, id, [&](Stack& list, size_t i) {
                const size_t last = list.size() - 1;
                const size_t to = where == Nearer::Front  ? 0
                                  : where == Nearer::Back ? last
                                  : where == Nearer::OneForward
                                      ? (i > 0 && !moves(list[i - 1]->id) ? i - 1 : i)
                                      : (i < last && !moves(list[i + 1]->id) ? i + 1 : i);
                moved = to != i;
                if (!moved) return;
                const LayerPtr layer = list[i];
                list.erase(list.begin() + ptrdiff_t(i));
                list.insert(list.begin() + ptrdiff_t(to), layer);
            });
            return moved;
        });
    return next;
}

Result<Made> withGrouped(const ReleasePtr& release, const PanelRef& panel,
                         const std::vector<std::string>& layers) {
    bool tooDeep = false;
    Made made;
    made.release = withStack(release, panel, [&](Stack& stack, Release& r) {
        std::vector<std::string> order;
        collectIds(stack, order);
        const auto front = std::find_first_of(order.begin(), order.end(), layers.begin(), layers.end());
        if (front == order.end()) return false;
        // A place holder keeps the place of the front-most one.
        auto group = std::make_shared<Layer>();
        group->id = takeId(r);
        group->name = "Group";
        GroupContent content;
        atLayer(stack, *front, [&](Stack& list, size_t i) { list.insert(list.begin() + long(i), group); });
        takeOut(stack, layers, content.layers);
        const int level = levelOf(stack, group->id);
        group->content = std::move(content);
        tooDeep = level + depthOf(*group) > kDeepestGroup;
        made.id = group->id;
        return true;
    });
    if (tooDeep)
        return fail(Fault::Usage, "Groups can be nested " + std::to_string(kDeepestGroup) +
                                      " deep and no deeper; nothing was grouped.");
    return made;
}

ReleasePtr withUngrouped(const ReleasePtr& release, const PanelRef& panel, const std::string& id) {
    return actAt(release, panel, id, [](Stack& list, size_t i, Release&) {
        const Layer layer = withWarp(*list[i], nullptr);
        const auto* group = layer.as<GroupContent>();
        if (!group) return;
        list.erase(list.begin() + long(i));
        list.insert(list.begin() + long(i), group->layers.begin(), group->layers.end());
    });
}

Made withDuplicate(const ReleasePtr& release, const PanelRef& panel, const std::string& id) {
    Made made;
    made.release = actAt(release, panel, id, [&](Stack& list, size_t i, Release& next) {
        LayerPtr copy = copied(*list[i], next);
        made.id = copy->id;
        list.insert(list.begin() + long(i), std::move(copy));
    });
    return made;
}

ReleasePtr withGhosts(const ReleasePtr& release, const PanelRef& panel, const std::string& id,
                      const Ghosts& ghosts) {
    return actAt(release, panel, id, [&](Stack& list, size_t i, Release& next) {
        Layer ghost = *list[i];
        for (int n = 1; n <= ghosts.count; ++n) {
            ghost = moved(std::move(ghost), ghosts.step);
            ghost.opacity *= ghosts.fade;
            Layer named = ghost;
            named.name += " ghost " + std::to_string(n);
            list.insert(list.begin() + long(i) + n, copied(named, next));
        }
    });
}

Result<Made> withEcho(const ReleasePtr& release, const PanelRef& panel, Layer echo,
                      const std::string& above) {
    if (const auto* content = echo.as<EchoContent>(); content && wouldCycle(*release, panel, *content))
        return fail(Fault::Usage, "“" + echo.name +
                                      "” shows this panel itself, so an echo of it here would never end; "
                                      "nothing was added.");
    return withLayer(release, panel, std::move(echo), above);
}

} // namespace glyptos
