#include "app/proofs.h"

#include "app/words.h"

#include <QBuffer>
#include <QDateTime>
#include <algorithm>

namespace hygros::app {
namespace {
constexpr int keptWidth = 1280; ///< of what is kept of a picture at most [pixels]
}

Proofs::Proofs(Document& document, Picture& picture, QObject* parent)
    : QObject(parent), document_(document), picture_(picture)
{
    connect(&document, &Document::proofsChanged, this, [this] {
        std::erase_if(pictures_, [this](const auto& kept) {
            return std::none_of(all().begin(), all().end(), [&](const One& p) { return p.get() == kept.first; });
        });
        Q_EMIT changed();
    });
}

Proofs::One Proofs::keep(const QString& note)
{
    const PictureState& state = picture_.state();
    if (state.image.isNull()) {
        Q_EMIT failed(say("There is no picture yet to keep a proof of."));
        return nullptr;
    }
    if (picture_.zoom() > 0 || !picture_.region().isNull()) {
        Q_EMIT failed(say("A proof is of the whole picture: fit it first (Ctrl+0)."));
        return nullptr;
    }
    scene::Proof p;
    int number = 1;
    const auto named = [&](const QString& name) {
        return std::any_of(all().begin(), all().end(),
                           [&](const One& o) { return QString::fromStdString(o->note) == name; });
    };
    while (named(say("Proof %1").arg(number)))
        ++number;
    p.note = (note.isEmpty() ? say("Proof %1").arg(number) : note).toStdString();
    p.time = QDateTime::currentDateTime().toString(Qt::ISODateWithMs).toStdString();
    p.samples = state.samples;
    p.state = document_.whole();
    QByteArray bytes;
    QBuffer buffer(&bytes);
    const QImage small = state.image.width() > keptWidth
                             ? state.image.scaledToWidth(keptWidth, Qt::SmoothTransformation)
                             : state.image;
    small.save(&buffer, "JPG", 90);
    p.picture = bytes.toBase64().toStdString();
    Document::Proofs next = all();
    const auto one = std::make_shared<const scene::Proof>(std::move(p));
    next.push_back(one);
    pictures_[one.get()] = state.image;
    document_.setProofs(std::move(next));
    return one;
}

void Proofs::put(const One& was, One now)
{
    Document::Proofs next = all();
    const auto at = std::find(next.begin(), next.end(), was);
    if (at == next.end())
        return;
    if (now)
        *at = std::move(now);
    else
        next.erase(at);
    document_.setProofs(std::move(next));
}

void Proofs::rename(const One& proof, const QString& note)
{
    if (!proof || note.trimmed().isEmpty() || note.toStdString() == proof->note)
        return;
    scene::Proof next = *proof;
    next.note = note.trimmed().toStdString();
    put(proof, std::make_shared<const scene::Proof>(std::move(next)));
}

void Proofs::forget(const One& proof) { put(proof, nullptr); }

void Proofs::goBack(const One& proof)
{
    if (!proof || !proof->isReadable())
        return;
    document_.setFrame(proof->state.frameNumber());
    document_.become(say("Back to “") + QString::fromStdString(proof->note) + "”", proof->state);
}

void Proofs::takeElement(const One& proof, const std::string& id)
{
    if (!proof || !proof->isReadable())
        return;
    scene::Project next = document_.whole();
    const scene::Element* then = proof->state.find(id);
    scene::Element* now = next.find(id);
    const std::string name = then ? then->name : now ? now->name : id;
    if (then && now)
        *now = *then;
    else if (then) {
        // Where it stood among the others that are still there.
        auto place = next.elements.begin();
        for (const scene::Element& e : proof->state.elements) {
            if (e.id == id)
                break;
            const auto at = std::find_if(next.elements.begin(), next.elements.end(),
                                         [&](const scene::Element& o) { return o.id == e.id; });
            if (at != next.elements.end())
                place = at + 1;
        }
        next.elements.insert(place, *then);
    } else if (now && !now->kind->permanent)
        next.remove(id);
    if (then && !then->group.empty() && !next.findGroup(then->group))
        if (const scene::Group* g = proof->state.findGroup(then->group))
            next.groups.push_back(*g);
    next.dropEmptyGroups();
    document_.become(say("%1 as in “%2”").arg(QString::fromStdString(name), QString::fromStdString(proof->note)),
                     std::move(next));
}

std::vector<scene::Difference> Proofs::differences(const One& proof) const
{
    return proof && proof->isReadable() ? scene::differencesBetween(proof->state, document_.whole())
                                        : std::vector<scene::Difference>();
}

QImage Proofs::picture(const One& proof) const
{
    if (!proof)
        return {};
    const auto found = pictures_.find(proof.get());
    if (found != pictures_.end())
        return found->second;
    QImage image;
    image.loadFromData(QByteArray::fromBase64(QByteArray::fromStdString(proof->picture)));
    return pictures_[proof.get()] = image.convertToFormat(QImage::Format_RGB32);
}

QString Proofs::words(const One& proof)
{
    if (!proof->isReadable())
        return say("not readable by this version");
    const QDateTime time = QDateTime::fromString(QString::fromStdString(proof->time), Qt::ISODateWithMs);
    const QString when = time.date() == QDate::currentDate() ? time.toString("HH:mm") : time.toString("d MMM, HH:mm");
    return say("%1 · frame %2 · %3 samples").arg(when).arg(proof->state.frameNumber()).arg(proof->samples);
}
} // namespace hygros::app
