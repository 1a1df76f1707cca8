/// What is done to keys on the Motion page by keys, fields and its menu.
#include "app/motion_view.h"

#include "app/words.h"

#include <QCheckBox>
#include <QClipboard>
#include <QContextMenuEvent>
#include <QGuiApplication>
#include <QKeyEvent>
#include <QLineEdit>
#include <QMenu>
#include <cmath>

namespace hygros::app {

scene::Value MotionView::withNumber(const scene::Value& v, int component, double number)
{
    if (std::holds_alternative<double>(v))
        return number;
    if (std::holds_alternative<std::int64_t>(v))
        return static_cast<std::int64_t>(std::llround(number));
    if (std::holds_alternative<bool>(v))
        return number > 0.5;
    if (const auto* three = std::get_if<Vec3>(&v)) {
        Vec3 changed = *three;
        changed[component] = static_cast<float>(number);
        return changed;
    }
    return v;
}

void MotionView::change(const QString& what, const std::function<scene::KeyPlaces(scene::Project&)>& edit,
                        const QString& merge)
{
    scene::KeyPlaces now;
    const bool done = session_.document().edit(
        what,
        [&](scene::Project& p) {
            // Tracks alone are changed; settings stay as they are posed.
            scene::Project keyed = session_.document().whole();
            now = edit(keyed);
            for (scene::Element& e : p.elements)
                if (const scene::Element* other = keyed.find(e.id)) {
                    e.motion = other->motion;
                    for (const scene::Parameter& q : e.kind->parameters)
                        if (const scene::Element* was = whole_.find(e.id);
                            was && !other->track(q.id) && was->track(q.id))
                            e.set(q.id, q.get(*other->settings)); // what its last key left
                }
        },
        merge);
    if (!done)
        return;
    chosen_ = std::move(now);
    pull();
}

void MotionView::keyPressEvent(QKeyEvent* e)
{
    const auto nudge = [&](double frames, double rise) {
        change(say("Move keys"), [&](scene::Project& p) {
            return scene::changeKeys(p, chosen_, scene::shifted(frames, false),
                                     [&](const scene::Parameter& q, const scene::Value& v) -> scene::Value {
                                         if (rise == 0.0 || !scene::mayBeStirred(q))
                                             return v;
                                         scene::Value out = v;
                                         const int numbers = std::holds_alternative<Vec3>(v) ? 3 : 1;
                                         for (int c = 0; c < numbers; ++c)
                                             out = withNumber(out, c,
                                                              q.rulerValue(q.rulerPosition(number(out, c)) + rise));
                                         return scene::limited(q, out);
                                     });
        });
    };
    if (e->matches(QKeySequence::Copy))
        return copy();
    if (e->matches(QKeySequence::Paste))
        return paste();
    if (e->matches(QKeySequence::SelectAll)) {
        for (const Lane& l : lanes_)
            for (const scene::Key& k : elementOf(l)->track(l.id.second)->keys)
                chosen_.insert({l.id.first, l.id.second, k.frame});
        showChosen();
        return update();
    }
    if (chosen_.empty())
        return QWidget::keyPressEvent(e);
    switch (e->key()) {
    case Qt::Key_Left: return nudge(-1.0, 0.0);
    case Qt::Key_Right: return nudge(1.0, 0.0);
    case Qt::Key_Up: return nudge(0.0, 0.01);
    case Qt::Key_Down: return nudge(0.0, -0.01);
    case Qt::Key_Escape: chosen_.clear(); return pull();
    case Qt::Key_Delete:
    case Qt::Key_Backspace:
        return change(say("Remove keys"), [&](scene::Project& p) {
            scene::removeKeys(p, chosen_);
            return scene::KeyPlaces();
        });
    default: QWidget::keyPressEvent(e);
    }
}

void MotionView::copy()
{
    if (!chosen_.empty())
        QGuiApplication::clipboard()->setText(QString::fromStdString(scene::keysToText(whole_, chosen_)));
}

void MotionView::paste()
{
    const std::string element = session_.selection().selected().empty() && !lanes_.empty()
                                    ? lanes_.front().id.first
                                    : session_.selection().selected();
    const std::string text = QGuiApplication::clipboard()->text().toStdString();
    change(say("Paste keys"), [&](scene::Project& p) {
        auto now = scene::pasteKeys(p, element, session_.document().frame(), text);
        if (now.empty())
            throw std::invalid_argument(said("none of the copied keys fits this element"));
        return now;
    });
}

void MotionView::setWay(scene::Way way)
{
    change(say("Way of keys"), [&](scene::Project& p) {
        for (const scene::KeyPlace& k : chosen_) {
            scene::Element& e = *p.find(k.element);
            scene::Track track = *e.track(k.parameter);
            scene::Key key = *track.at(k.frame);
            key.way = way;
            track.put(key);
            e.setTrack(k.parameter, std::move(track));
        }
        return chosen_;
    });
}

void MotionView::typed(QLineEdit* field)
{
    if (!field->isModified() || chosen_.empty())
        return;
    field->setModified(false);
    const std::string text = field->text().toStdString();
    if (field == frameField_) {
        bool good = false;
        const double frame = field->text().toDouble(&good);
        double first = 1e300;
        for (const scene::KeyPlace& k : chosen_)
            first = std::min(first, k.frame);
        if (good && std::abs(frame) < scene::TimeSettings::farthest)
            change(say("Frame of keys"), [&](scene::Project& p) {
                return scene::changeKeys(p, chosen_, scene::shifted(frame - first, false));
            });
    } else {
        change(say("Value of keys"), [&](scene::Project& p) {
            return scene::changeKeys(p, chosen_, scene::shifted(0.0, false),
                                     [&](const scene::Parameter& q, const scene::Value&) { return q.parsed(text); });
        });
    }
    showChosen();
}

void MotionView::contextMenuEvent(QContextMenuEvent* e)
{
    QMenu menu(this);
    const auto hit = keyAt(e->pos());
    if (hit && !chosen_.count(hit->key)) {
        chosen_ = {hit->key};
        showChosen();
        update();
    }
    menu.addAction(say("Copy keys"), QKeySequence::Copy, this, &MotionView::copy)->setEnabled(!chosen_.empty());
    menu.addAction(say("Paste keys at the play head"), QKeySequence::Paste, this, &MotionView::paste);
    menu.addAction(say("Remove keys"), QKeySequence::Delete, this,
                   [this] {
                       change(say("Remove keys"), [&](scene::Project& p) {
                           scene::removeKeys(p, chosen_);
                           return scene::KeyPlaces();
                       });
                   })
        ->setEnabled(!chosen_.empty());
    menu.addAction(say("Slopes as they come"), this,
                   [this] {
                       change(say("Slopes of keys"), [&](scene::Project& p) {
                           for (const scene::KeyPlace& k : chosen_) {
                               scene::Element& own = *p.find(k.element);
                               scene::Track track = *own.track(k.parameter);
                               scene::Key key = *track.at(k.frame);
                               key.in = key.out = std::nullopt;
                               track.put(key);
                               own.setTrack(k.parameter, std::move(track));
                           }
                           return chosen_;
                       });
                   })
        ->setEnabled(!chosen_.empty());
    menu.addSeparator();
    menu.addAction(say("Show the whole range"), this, [this] {
        zoomed_ = false;
        pull();
    });
    menu.exec(e->globalPos());
}
} // namespace hygros::app
