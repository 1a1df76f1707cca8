#include "app/checks.h"

#include "app/words.h"

#include <numeric>

namespace hygros::app {
using reading::Finding;

Checks::Checks(Document& document, Picture& picture, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), picture_(picture), store_(std::move(store))
{
    timer_.setSingleShot(true);
    timer_.setInterval(250);
    connect(&timer_, &QTimer::timeout, this, &Checks::look);
    // Once nothing has come for a while: not while something is dragged.
    const auto soon = [this] { timer_.start(); };
    connect(&picture, &Picture::shotChanged, this, soon);
    connect(&picture, &Picture::thumbnailChanged, this, soon);
    connect(&picture, &Picture::costsChanged, this, soon);
    connect(&picture, &Picture::pictureChanged, this, [this, soon] {
        if (picture_.state().clean)
            soon();
    });
    connect(&document, &Document::projectReplaced, this, [this] {
        all_.clear();
        Q_EMIT changed();
    });
}

std::size_t Checks::count() const
{
    return static_cast<std::size_t>(std::count_if(
        all_.begin(), all_.end(), [](const Finding& f) { return f.grade != Finding::Grade::Information; }));
}

void Checks::mend(const Finding& f)
{
    if (f.fix.bakes)
        Q_EMIT bakeWanted(f.element);
    if (f.fix.settings.empty())
        return;
    document_.edit(say("Mend: ") + QString::fromStdString(f.fix.label), [&f](scene::Project& p) {
        for (const auto& [path, value] : f.fix.settings)
            p.setPath(path, value);
    });
}

void Checks::look()
{
    const auto shot = picture_.shot();
    if (!shot || !picture_.isOfShot()) // it is judged from the shot's camera
        return;
    const scene::Project& project = document_.project();
    reading::Measured m;
    const bool settled = picture_.isSettled();
    for (const scene::Element& e : project.elements) {
        if (project.silent(e))
            continue;
        // Thumbnails are of the picture once it has settled.
        if (const auto share = settled ? picture_.share(e.id) : nullptr; share && !share->share.empty())
            m.adds[e.id] = double(std::accumulate(share->share.begin(), share->share.end(), 0.f)) /
                           double(share->share.size());
        JobControl job;
        if (e.kind->family == scene::Family::Set)
            if (const auto box = reading::boundsOf(project, e, *store_, job))
                m.bounds[e.id] = *box;
    }
    for (const auto& [id, share] : picture_.costs())
        m.costs[id] = share;
    if (const QImage& image = picture_.state().image; settled && !image.isNull()) {
        std::size_t white = 0;
        for (int y = 0; y < image.height(); y += 2) {
            const auto* row = reinterpret_cast<const QRgb*>(image.constScanLine(y));
            for (int x = 0; x < image.width(); x += 2)
                white += qRed(row[x]) >= 250 && qGreen(row[x]) >= 250 && qBlue(row[x]) >= 250;
        }
        m.white = 4.0 * double(white) / (double(image.width()) * image.height());
    }
    auto next = reading::checksOf(project, *shot, m);
    const auto same = [](const Finding& a, const Finding& b) {
        return a.id == b.id && a.element == b.element && a.text == b.text && a.fix.settings == b.fix.settings &&
               a.fix.bakes == b.fix.bakes;
    };
    const bool differs = !std::equal(next.begin(), next.end(), all_.begin(), all_.end(), same);
    all_ = std::move(next);
    if (differs)
        Q_EMIT changed();
}
} // namespace hygros::app
