#include "app/session.h"

#include "app/choices.h"
#include "app/words.h"
#include "base/error.h"
#include "base/numbered.h"
#include "elements/bake.h"
#include "elements/collect.h"

#include <QFileInfo>
#include <algorithm>
#include <utility>

namespace hygros::app {
namespace {
std::size_t keptBytes() { return static_cast<std::size_t>(Choices::now().keptGb * 1e9); }
} // namespace

Session::Session(QObject* parent)
    : QObject(parent), store_(std::make_shared<Store>(keptBytes())), document_(std::make_unique<Document>(store_)),
      selection_(std::make_unique<Selection>()), arranger_(std::make_unique<Arranger>(*document_, *selection_, store_)),
      jobs_(std::make_unique<Jobs>()), picture_(std::make_unique<Picture>(store_)),
      library_(std::make_unique<Library>(*document_, *picture_)),
      readings_(std::make_unique<Readings>(*picture_, *selection_)),
      reference_(std::make_unique<Reference>(
          *picture_, [this] { return library_->previews() ? std::nullopt : std::optional(document_->whole()); })),
      recovery_(std::make_unique<Recovery>(*document_, *picture_)),
      keptRun_(std::make_unique<KeptRun>(*document_, *picture_, *jobs_, store_)),
      baker_(std::make_unique<Baker>(*document_, *jobs_, store_)),
      player_(std::make_unique<Player>(*document_, *picture_, *keptRun_)),
      proofs_(std::make_unique<Proofs>(*document_, *picture_)),
      compare_(std::make_unique<Compare>(*document_, *picture_, *proofs_, *reference_, store_)),
      bracket_(std::make_unique<Bracket>(*document_, *picture_, store_)),
      checks_(std::make_unique<Checks>(*document_, *picture_, store_))
{
    connect(document_.get(), &Document::failed, this, &Session::failed);
    connect(arranger_.get(), &Arranger::failed, this, &Session::failed);
    connect(arranger_.get(), &Arranger::told, this, &Session::told);
    connect(jobs_.get(), &Jobs::failed, this, &Session::failed);
    connect(picture_.get(), &Picture::failed, this, &Session::failed);
    connect(library_.get(), &Library::failed, this, &Session::failed);
    connect(reference_.get(), &Reference::failed, this, &Session::failed);
    connect(recovery_.get(), &Recovery::failed, this, &Session::failed);
    connect(proofs_.get(), &Proofs::failed, this, &Session::failed);
    connect(compare_.get(), &Compare::failed, this, &Session::failed);
    connect(bracket_.get(), &Bracket::failed, this, &Session::failed);
    connect(keptRun_.get(), &KeptRun::failed, this, &Session::failed);
    connect(keptRun_.get(), &KeptRun::told, this, &Session::told);
    connect(baker_.get(), &Baker::told, this, &Session::told);
    connect(baker_.get(), &Baker::frameChanged, this, &Session::show);
    connect(checks_.get(), &Checks::bakeWanted, baker_.get(), &Baker::bake);
    connect(picture_.get(), &Picture::pictureChanged, this, [this] {
        if (!quiet_)
            baker_->pictureShows(picture_->state().frame);
    });
    connect(player_.get(), &Player::changed, this, [this, was = Player::State::Still]() mutable {
        // What was played from memory stands still: now it is drawn as all frames are.
        if (std::exchange(was, player_->state()) == Player::State::Kept && was == Player::State::Still)
            show();
    });
    connect(compare_.get(), &Compare::changed, readings_.get(),
            [this] { readings_->setAgainst(compare_->isOn() ? compare_->image() : QImage()); });
    connect(document_.get(), &Document::projectReplaced, this, [this] {
        picture_->clear();
        selection_->clear();
        readings_->clear();
        compare_->end();
    });
    connect(document_.get(), &Document::projectChanged, this, &Session::show);
    connect(document_.get(), &Document::frameChanged, this, &Session::show);
    connect(selection_.get(), &Selection::taskChanged, this, [this] {
        if (selection_->task().what != Selection::Task::Nothing)
            picture_->setFreeCamera(std::nullopt); // distances and horizon are the shot's
    });
    // Not before the window stands: a project that is opened with it needs the threads that would draw the empty one.
    QMetaObject::invokeMethod(this, &Session::show, Qt::QueuedConnection);
}

Session::~Session()
{
    // Threads end before what they speak to.
    compare_->stop();
    bracket_->end();
    player_.reset();
    jobs_.reset();
    baker_.reset();
    picture_->end();
    reference_.reset();
    recovery_.reset();
}

void Session::show()
{
    if (!quiet_ && !(player_ && player_->state() == Player::State::Kept))
        picture_->setProject(document_->whole());
}

void Session::keepUpTo(double gigabytes)
{
    Choices c = Choices::now();
    c.keptGb = gigabytes;
    c.keep();
    store_->setLimit(keptBytes());
}

void Session::newProject()
{
    scene::Project p = elements::newProject();
    for (scene::Element& e : p.elements) // as the artist wants them to begin
        Arranger::applyDefault(e);
    document_->replace(std::move(p), {});
}

void Session::recover(const QString& journal)
{
    try {
        const QString file = Recovery::fileOf(journal);
        document_->restore(Recovery::read(journal), file);
        Recovery::discard(journal);
    } catch (const std::exception& e) {
        Q_EMIT failed(troubleOf(e));
    }
}

void Session::open(const QString& file)
{
    auto loaded = std::make_shared<scene::Project>();
    jobs_->run(
        say("Opening ") + QFileInfo(file).fileName(),
        [loaded, file, store = store_](JobControl& job) {
            *loaded = scene::loadProject(file.toStdString(), elements::findKind);
            elements::freeze(*loaded, *store, job, elements::Missing::Told); // what is there must be readable
        },
        [this, loaded, file] {
            quiet_ = false;
            Document::remember(file);
            document_->replace(std::move(*loaded), file);
            if (const auto other = document_->otherHolder())
                Q_EMIT told(
                    say("This project is open in another window (process %1 on %2, since %3). Saving asks first.")
                        .arg(other->process)
                        .arg(other->host, other->since));
        },
        [this] {
            if (std::exchange(quiet_, false))
                show();
        });
}

void Session::openAtStart(const QString& file)
{
    quiet_ = true;
    picture_->freezer().cancel();
    open(file);
}

elements::Seen Session::seen() const
{
    const auto shot = picture_->shot();
    return {picture_->camera(), picture_->depthQuantile(0.1), picture_->depthQuantile(0.5),
            picture_->depthQuantile(0.97), shot ? shot->look.exposure : 0.f};
}

void Session::add(const elements::Kind& kind)
{
    std::string id;
    document_->edit(say("Add ") + QString::fromStdString(kind.label), [&](scene::Project& p) {
        scene::Element& e = p.add(kind, kind.label);
        Arranger::applyDefault(e);
        if (kind.begin)
            kind.begin(e, seen());
        id = e.id;
    });
    selection_->setSelected(id);
}

void Session::bring(const elements::Kind& kind, const QString& file)
{
    const std::filesystem::path path = file.toStdString();
    jobs_->run(
        say("Importing ") + QFileInfo(file).fileName(),
        [&kind, path, store = store_](JobControl& job) {
            if (kind.readBefore)
                kind.readBefore(path, *store, job);
        },
        [this, &kind, path, file] {
            std::string added;
            document_->edit(say("Import ") + QFileInfo(file).completeBaseName(), [&](scene::Project& p) {
                added = kind.bring(p, path, document_->relative(file), seen(), *store_).id;
            });
            if (added.empty())
                return;
            selection_->setSelected(added);
            Q_EMIT brought(QString::fromStdString(added));
        });
}

void Session::take(const scene::Recipe& recipe)
{
    const Vec3 at = library_->placeOf(recipe);
    taken_ = {QString::fromStdString(recipe.name), library_->take(recipe), at};
    if (taken_.elements.empty())
        return;
    const auto shot = picture_->shot();
    if (recipe.stands > 0.0 && shot && shot->scene->triangles() > 0)
        selection_->begin({Selection::Task::PlaceTaken, taken_.elements.front()});
    for (const std::string& id : taken_.elements)
        if (const scene::Element* e = project().find(id); e && elements::kindOf(*e).solver)
            baker_->bake(id);
}

void Session::placeTaken(const Vec3& at)
{
    Vec3 even = at;
    for (int i = 0; i < 3; ++i)
        even[i] = std::round(even[i] * 1000.f) / 1000.f;
    document_->edit(say("Place ") + taken_.name, [&](scene::Project& p) {
        for (const std::string& id : taken_.elements)
            if (scene::Element* e = p.find(id))
                for (const scene::Parameter& parameter : e->kind->parameters)
                    if (parameter.isPlace)
                        e->set(parameter.id, std::get<Vec3>(e->value(parameter.id)) + even - taken_.at);
    });
    taken_.at = even;
}

void Session::fit(const std::string& element)
{
    const scene::Element* e = project().find(element);
    if (!e || !elements::kindOf(*e).fit)
        return;
    if (seen().near <= 0.f) {
        Q_EMIT failed(
            say("The set's depth is not known yet: wait for the first picture, or bring a set or a plate with depth."));
        return;
    }
    document_->edit(QString::fromStdString(e->kind->label) + say(" from the set"),
                    [&](scene::Project& p) { elements::kindOf(*e).fit(*p.find(element), seen()); });
}

void Session::collect()
{
    const QString file = document_->file();
    auto next = std::make_shared<scene::Project>(document_->whole());
    auto told = std::make_shared<elements::Collected>();
    jobs_->run(
        say("Collecting files"),
        [next, told, path = std::filesystem::path(file.toStdString())](JobControl& job) {
            *told = elements::collect(*next, path, job);
        },
        [this, next, told, before = *next, file] {
            if (document_->file() != file)
                return; // another project by now
            bool any = false;
            document_->edit(say("Collect files"), [&](scene::Project& p) {
                for (scene::Element& e : p.elements)
                    for (const scene::Parameter& q : e.kind->parameters)
                        if (const scene::Element* now = next->find(e.id), *then = before.find(e.id);
                            q.type == scene::ValueType::File && now && then && e.value(q.id) == then->value(q.id) &&
                            now->value(q.id) != then->value(q.id)) {
                            e.set(q.id, now->value(q.id));
                            any = true;
                        }
            });
            QString text = told->copied == 0 ? say("All files that were found lie beside the project already.")
                                             : say("%1 files, %2 MB, were copied beside the project.")
                                                   .arg(told->copied)
                                                   .arg(figure(static_cast<double>(told->bytes) * 1e-6, 1));
            if (any)
                text += say(" Save it to keep it so.");
            for (const std::string& missing : told->missing)
                text += say(" “%1” is not there.").arg(QString::fromStdString(missing));
            Q_EMIT this->told(text);
        });
}

void Session::exportVolume(const std::string& element, const QString& file, float voxel)
{
    jobs_->run(
        say("Exporting ") + QFileInfo(file).fileName(),
        [project = document_->whole(), element, file, voxel, store = store_](JobControl& job) mutable {
            if (!file.contains('#'))
                return elements::exportVolume(project, element, file.toStdString(), voxel, *store, job);
            const auto [first, last] = std::pair(project.time.first, project.time.last);
            bool any = false;
            for (int frame = first; frame <= last; ++frame) {
                job.check();
                if (!elements::keptFrame(project, element, frame, *store))
                    continue;
                any = true;
                project.frame = frame;
                elements::exportVolume(project, element, numbered(file.toStdString(), frame), voxel, *store, job);
                job.report(static_cast<float>(frame - first + 1) / static_cast<float>(last - first + 1), "");
            }
            if (!any)
                throw inputError(said("Exporting a volume to"), file.toStdString(),
                                 said("none of its frames is baked"));
        },
        [this, file] { Q_EMIT told(say("Written: ") + file); });
}
} // namespace hygros::app
