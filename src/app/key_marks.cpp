#include "app/key_marks.h"

#include "app/card.h"
#include "app/lead_ruler.h"
#include "app/stir_dialog.h"
#include "app/theme.h"
#include "app/words.h"

#include <QLabel>
#include <QMenu>
#include <QPainter>
#include <QPainterPath>
#include <cmath>

namespace hygros::app {
using scene::Parameter;

namespace {
std::optional<double> numberOf(const scene::Value& v)
{
    if (const auto* d = std::get_if<double>(&v))
        return *d;
    if (const auto* i = std::get_if<std::int64_t>(&v))
        return static_cast<double>(*i);
    return std::nullopt;
}
} // namespace

MotionMark motionMark(const scene::Element& element, const Parameter& parameter, double frame)
{
    MotionMark mark;
    const scene::Track* track = element.track(parameter.id);
    if (!track)
        return mark;
    mark.keyed = !track->keys.empty();
    mark.here = track->at(frame) != nullptr;
    mark.stirred = !track->stirs.empty();
    if (const auto before = track->next(frame, false))
        mark.before = numberOf(track->at(*before)->value);
    if (const auto after = track->next(frame, true))
        mark.after = numberOf(track->at(*after)->value);
    return mark;
}

void drawMark(QPainter& p, const QPointF& head, const MotionMark& mark, const QColor& colour)
{
    p.setRenderHint(QPainter::Antialiasing);
    p.setPen(QPen(colour, 1.2));
    if (mark.keyed) {
        p.setBrush(mark.here ? QBrush(colour) : QBrush(Qt::NoBrush));
        p.drawEllipse(head, 2.4, 2.4);
        p.drawLine(head + QPointF(0, 2.4), head + QPointF(0, 8));
        p.setBrush(Qt::NoBrush);
    }
    if (mark.stirred) {
        const QPointF from = head + QPointF(mark.keyed ? 4 : -3, 3);
        QPainterPath wave(from);
        wave.cubicTo(from + QPointF(2, -5), from + QPointF(3, -5), from + QPointF(4, 0));
        wave.cubicTo(from + QPointF(5, 5), from + QPointF(6, 5), from + QPointF(8, 0));
        p.drawPath(wave);
    }
}

void followKeys(Card& card, const Parameter& parameter, QWidget* field)
{
    if (!scene::mayBeKeyed(parameter))
        return;
    const auto mark = [&card, &parameter] {
        return motionMark(card.now(), parameter, card.session().document().frame());
    };
    if (auto* ruler = qobject_cast<LeadRuler*>(field)) {
        card.onRefresh([ruler, mark] { ruler->setMark(mark()); });
        return;
    }
    // Other fields say it before their name.
    auto* label = field->findChild<QLabel*>();
    if (!label)
        return;
    const QString name = label->text();
    card.onRefresh([label, name, mark] {
        const MotionMark m = mark();
        label->setText((m.here ? "● " : m.keyed ? "○ " : "") + QString(m.stirred ? "∿ " : "") + name);
    });
}

void setKeyHere(Card& card, const Parameter& parameter, bool there)
{
    Session& session = card.session();
    for (const std::string& id : session.arranger().with(card.element())) {
        const scene::Element* e = session.project().find(id);
        if (!e || e->kind != card.now().kind)
            continue;
        there ? session.document().setKey(id, parameter.id) : session.document().removeKey(id, parameter.id);
    }
}

void addKeyActions(QMenu& menu, Card& card, const Parameter& parameter)
{
    if (!scene::mayBeKeyed(parameter))
        return;
    Document& document = card.session().document();
    const scene::Track* track = card.now().track(parameter.id);
    const int now = document.frame();
    const std::string element = card.element();
    const QString label = QString::fromStdString(parameter.label);
    if (track && track->at(now))
        menu.addAction(say("Remove its key at frame %1").arg(now), QKeySequence("Shift+K"), &card,
                       [&card, &parameter] { setKeyHere(card, parameter, false); });
    else
        menu.addAction(say("Set a key at frame %1").arg(now), QKeySequence("K"), &card,
                       [&card, &parameter] { setKeyHere(card, parameter, true); });
    const auto change = [&document, element, &parameter](const QString& what, auto edit) {
        const scene::Element* e = document.project().find(element);
        const scene::Track* was = e ? e->track(parameter.id) : nullptr;
        scene::Track next = was ? *was : scene::Track();
        edit(next);
        document.setTrack(element, parameter.id, std::move(next), what);
    };
    if (track && !track->keys.empty()) {
        QMenu* keys = menu.addMenu(say("Keys"));
        constexpr std::size_t most = 24;
        for (std::size_t i = 0; i < std::min(most, track->keys.size()); ++i) {
            const scene::Key& k = track->keys[i];
            keys->addAction(say("Frame %1: %2")
                                .arg(QString::fromStdString(formatNumber(k.frame, 7)),
                                     QString::fromStdString(parameter.shown(k.value))),
                            &card, [&document, f = k.frame] { document.setFrame(static_cast<int>(std::lround(f))); });
        }
        if (scene::isBlended(parameter)) {
            keys->addSeparator();
            const char* const ways[] = {QT_TRANSLATE_NOOP("window", "smoothly"), QT_TRANSLATE_NOOP("window", "evenly"),
                                        QT_TRANSLATE_NOOP("window", "in a step")};
            for (int w = 0; w < 3; ++w)
                keys->addAction(say("From here on %1").arg(say(ways[w])), &card, [change, now, w] {
                    change(say("Way of a key"), [&](scene::Track& t) {
                        for (auto k = t.keys.rbegin(); k != t.keys.rend(); ++k)
                            if (k->frame <= now + 1e-3) {
                                k->way = static_cast<scene::Way>(w);
                                return;
                            }
                    });
                });
        }
        keys->addSeparator();
        const char* const beyonds[] = {QT_TRANSLATE_NOOP("window", "stay as it is"),
                                       QT_TRANSLATE_NOOP("window", "go on"), QT_TRANSLATE_NOOP("window", "repeat"),
                                       QT_TRANSLATE_NOOP("window", "swing to and fro")};
        for (int b = 0; b < 4; ++b) {
            QAction* a = keys->addAction(say("Before and after them: %1").arg(say(beyonds[b])), &card, [change, b] {
                change(say("Beyond the keys"),
                       [&](scene::Track& t) { t.before = t.after = static_cast<scene::Beyond>(b); });
            });
            a->setCheckable(true);
            a->setChecked(track->after == static_cast<scene::Beyond>(b) &&
                          track->before == static_cast<scene::Beyond>(b));
        }
        keys->addSeparator();
        keys->addAction(say("Remove all its keys"), &card,
                        [change] { change(say("Remove keys"), [](scene::Track& t) { t.keys.clear(); }); });
    }
    if (scene::mayBeStirred(parameter))
        menu.addAction(say("Stir it over time…"), &card, [&document, element, &parameter, &card] {
            auto* dialog = new StirDialog(document, element, parameter, &card);
            dialog->setAttribute(Qt::WA_DeleteOnClose);
            dialog->open();
        });
    menu.addSeparator();
}
} // namespace hygros::app
