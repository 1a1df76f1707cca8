#include "app/session.h"

#include "base/error.h"
#include "base/random.h"
#include "finish/display.h"

#include <QCoreApplication>
#include <QDir>
#include <QFileInfo>
#include <QSettings>
#include <algorithm>
#include <cmath>
#include <utility>

namespace hygros::app {
namespace {
/// A file's name as a project keeps it.
std::string relativeTo(const scene::Project& project, const QString& file)
{
    const std::filesystem::path path = file.toStdString();
    const auto relative = project.folder.empty() ? std::filesystem::path() : path.lexically_relative(project.folder);
    return (relative.empty() ? path : relative).generic_string();
}
} // namespace

Session::Session(QObject* parent) : QObject(parent), history_(elements::newProject()), store_(std::make_shared<Store>())
{
    renderer_ = std::make_unique<render::LiveRenderer>(
        [this, display = std::shared_ptr<finish::Display>(), of = shot::Look()](const render::LivePicture& p) mutable {
            // On the renderer's thread: only the finished image crosses over. The display's tables are kept with their
            // look.
            if (!display || !(of == p.look)) {
                display = std::make_shared<finish::Display>(p.look);
                of = p.look;
            }
            PictureState state;
            state.image = QImage(p.width, p.height, QImage::Format_RGB32);
            display->apply(p.rgb.data(), p.width, p.height, state.image.bits(),
                           static_cast<std::size_t>(state.image.bytesPerLine()), 4);
            state.samples = p.samples;
            state.wanted = p.wantedSamples;
            state.secondsSinceEdit = p.secondsSinceEdit;
            state.secondsPerPass = p.secondsPerPass;
            state.clean = p.isClean;
            state.revision = p.revision;
            state.depth = p.depth;
            for (std::size_t i = 0; p.isClean && i < p.rgb.size(); i += 3)
                state.light += static_cast<double>(luminance(Vec3(p.rgb[i], p.rgb[i + 1], p.rgb[i + 2]))) * 3.0 /
                               static_cast<double>(p.rgb.size());
            QMetaObject::invokeMethod(this, [this, state] {
                picture_ = state;
                if (state.samples >= 1 && (state.samples == 1 || state.clean))
                    thumbnailTimer_.start();
                if (state.samples >= 1 && (state.clean || !readingTimer_.isActive()))
                    readingTimer_.start(state.samples == 1 || state.clean ? 60 : 1500);
                if (state.samples == 1 || state.clean || (state.samples & (state.samples - 1)) == 0)
                    askCosts();
                if (state.clean)
                    startReference();
                Q_EMIT pictureChanged();
            });
        });
    freezer_ = std::thread([this] { freezeLoop(); });
    thumbnailTimer_.setSingleShot(true);
    thumbnailTimer_.setInterval(150);
    connect(&thumbnailTimer_, &QTimer::timeout, this, &Session::askThumbnails);
    readingTimer_.setSingleShot(true);
    connect(&readingTimer_, &QTimer::timeout, this, &Session::askReadings);
    jobTimer_.setInterval(80);
    connect(&jobTimer_, &QTimer::timeout, this, [this] {
        if (job_)
            Q_EMIT jobChanged(job_->name, job_->control.progress(), QString::fromStdString(job_->control.message()));
    });
}

Session::~Session()
{
    cancelJob();
    if (job_ && job_->thread.joinable())
        job_->thread.join();
    {
        const std::lock_guard lock(freezeMutex_);
        quit_ = true;
    }
    freezeWake_.notify_all();
    freezer_.join();
    referenceRenderer_.reset();
    renderer_.reset();
}

bool Session::edit(const QString& name, const std::function<void(scene::Project&)>& change, const QString& merge)
{
    scene::Project next = project();
    try {
        change(next);
    } catch (const std::invalid_argument& bad) {
        Q_EMIT failed(QString("%1: %2. Nothing was changed.").arg(name, bad.what()));
        return false;
    } catch (const Error& bad) {
        Q_EMIT failed(bad.what());
        return false;
    }
    history_.push(std::move(next), name.toStdString(), merge.toStdString());
    changedProject();
    return true;
}

bool Session::setValue(const std::string& element, const std::string& parameter, const scene::Value& value,
                       const QString& merge)
{
    const scene::Element* e = project().find(element);
    if (!e)
        return false;
    const scene::Parameter* p = scene::findParameter(e->kind->parameters, parameter);
    if (parameter == "linking" && e->kind->id == "volume") {
        // Its look stays: the other way's numbers are worked out from this one's.
        return edit(QString::fromStdString(e->name + " " + p->label), [&](scene::Project& next) {
            for (const auto& [id, v] : elements::relinked(*e, std::get<std::string>(value)))
                next.find(element)->set(id, v);
        });
    }
    if (parameter == "follows") {
        // It stays where it stands: its points are put into the metres of what it goes with.
        std::vector<std::pair<std::string, Vec3>> places;
        const Mat4 before = frameOf(element);
        for (const scene::Parameter& q : e->kind->parameters)
            if (q.type == scene::ValueType::Point && (q.id == "position" || q.id == "aim" || q.id == "centre"))
                places.emplace_back(q.id, placeOf(element, q.id));
        return edit(
            QString::fromStdString(e->name + " " + p->label),
            [&](scene::Project& next) {
                scene::Element& own = *next.find(element);
                own.set(parameter, value);
                JobControl job;
                const Mat4 into =
                    elements::frameOf(next, std::get<std::string>(value), *store_, job).value_or(Mat4()).inverse();
                if (own.kind->family == scene::Family::Air)
                    own.set("turn", std::get<double>(own.value("turn")) +
                                        static_cast<double>(elements::turnOf(before) + elements::turnOf(into)) * 180.0 /
                                            static_cast<double>(pi));
                for (const auto& [id, world] : places) {
                    Vec3 local;
                    into.multVecMatrix(world, local);
                    own.set(id, local);
                }
            },
            merge);
    }
    return edit(
        QString::fromStdString(e->name + " " + (p ? p->label : parameter)),
        [&](scene::Project& next) { next.find(element)->set(parameter, value); }, merge);
}

Mat4 Session::frameOf(const std::string& element)
{
    const scene::Element* e = project().find(element);
    if (!e || !scene::findParameter(e->kind->parameters, "follows"))
        return {};
    JobControl job;
    return elements::frameOf(project(), std::get<std::string>(e->value("follows")), *store_, job).value_or(Mat4());
}

Vec3 Session::placeOf(const std::string& element, const std::string& parameter)
{
    Vec3 world;
    frameOf(element).multVecMatrix(std::get<Vec3>(project().find(element)->value(parameter)), world);
    return world;
}

bool Session::setPlace(const std::string& element, const std::string& parameter, const Vec3& world,
                       const QString& merge)
{
    Vec3 local;
    frameOf(element).inverse().multVecMatrix(world, local);
    for (int i = 0; i < 3; ++i)
        local[i] = std::round(local[i] * 1000.f) / 1000.f;
    return setValue(element, parameter, local, merge);
}

void Session::undo()
{
    if (!history_.canUndo())
        return;
    history_.undo();
    changedProject();
}

void Session::redo()
{
    if (!history_.canRedo())
        return;
    history_.redo();
    changedProject();
}

std::vector<scene::Recipe> Session::recipes()
{
    // Beside an installed program, else where it was built.
    const QString installed = QCoreApplication::applicationDirPath() + "/../share/hygros/recipes";
    const std::string folder = QDir(installed).exists() ? installed.toStdString() : HYGROS_RECIPES;
    const auto tell = [this](const std::string& why) { Q_EMIT failed(QString::fromStdString(why)); };
    std::vector<scene::Recipe> all = scene::recipesIn(folder, elements::findKind, tell);
    for (scene::Recipe& r : scene::recipesIn(folder + "/matter", elements::findKind, tell))
        all.push_back(std::move(r));
    return all;
}

void Session::takeRecipe(const scene::Recipe& recipe)
{
    previewed_.reset();
    edit("Recipe " + QString::fromStdString(recipe.name),
         [&](scene::Project& p) { scene::applyRecipe(p, recipe, recipeScale(recipe), recipePlace(recipe)); });
}

double Session::recipeScale(const scene::Recipe& recipe) const
{
    const double depth = static_cast<double>(depthQuantile(0.9));
    return fitsRecipes_ && depth > 0.0 ? depth / recipe.depth : 1.0;
}

Vec3 Session::recipePlace(const scene::Recipe& recipe) const
{
    const geometry::Camera c = camera();
    const Vec3 ahead = c.aim - c.position;
    const Vec3 level = Vec3(ahead.x, 0.f, ahead.z).length2() > 1e-8f ? Vec3(ahead.x, 0.f, ahead.z).normalized()
                                                                     : Vec3(0, 0, -1);
    const auto even = [](float v) { return std::round(v * 100.f) / 100.f; };
    Vec3 at = c.position + level * static_cast<float>(recipe.stands);
    at.y = 0.f;
    // On what lies there, where the set has a ground.
    geometry::Hit hit;
    if (shot_ && shot_->scene->trace(Vec3(at.x, c.position.y + 0.5f, at.z), Vec3(0, -1, 0), 0.f, 200.f, hit))
        at.y = c.position.y + 0.5f - hit.t;
    return {even(at.x), even(at.y), even(at.z)};
}

void Session::preview(const scene::Recipe* recipe)
{
    if (!recipe && !previewed_)
        return;
    previewed_.reset();
    if (recipe) {
        previewed_ = project();
        scene::applyRecipe(*previewed_, *recipe, recipeScale(*recipe), recipePlace(*recipe));
    }
    refreeze();
}

void Session::changedProject()
{
    previewed_.reset();
    changed_ = true;
    Q_EMIT projectChanged();
    refreeze();
}

void Session::replace(scene::Project project, const QString& file)
{
    history_ = scene::History(std::move(project));
    file_ = file;
    changed_ = false;
    freeCamera_.reset();
    thumbnails_.clear();
    previewed_.reset();
    begin({});
    selected_.clear();
    readings_ = {};
    ownBorders_.clear();
    pins_.clear();
    soundings_.clear();
    chosenPin_ = -1;
    Q_EMIT projectReplaced();
    Q_EMIT projectChanged();
    Q_EMIT fileChanged();
    refreeze();
}

void Session::newProject() { replace(elements::newProject(), {}); }

void Session::open(const QString& file)
{
    auto loaded = std::make_shared<scene::Project>();
    runJob(
        "Opening " + QFileInfo(file).fileName(),
        [loaded, file, store = store_](JobControl& job) {
            *loaded = scene::loadProject(file.toStdString(), elements::findKind);
            elements::freeze(*loaded, *store, job); // its sets must be readable before anything is replaced
        },
        [this, loaded, file] {
            remember(file);
            replace(std::move(*loaded), file);
        });
}

void Session::openAtStart(const QString& file)
{
    quiet_ = true;
    open(file);
}

bool Session::save(const QString& file)
{
    try {
        scene::saveProject(project(), file.toStdString());
    } catch (const std::exception& e) {
        Q_EMIT failed(e.what());
        return false;
    }
    // File names are now relative to the new place; take them over without a step in the history.
    if (file != file_) {
        try {
            replace(scene::loadProject(file.toStdString(), elements::findKind), file);
        } catch (const std::exception& e) {
            Q_EMIT failed(e.what());
        }
    }
    changed_ = false;
    remember(file);
    Q_EMIT fileChanged();
    return true;
}

void Session::importSet(const QString& file)
{
    runJob(
        "Importing " + QFileInfo(file).fileName(),
        [file, store = store_](JobControl& job) { elements::keptSet(*store, file.toStdString(), job); },
        [this, file] {
            std::string added;
            edit("Import " + QFileInfo(file).completeBaseName(), [&](scene::Project& p) {
                scene::Element& e = p.add(*elements::findKind("set"), QFileInfo(file).completeBaseName().toStdString());
                e.set("file", relativeTo(p, file));
                JobControl none;
                const float metres = elements::keptSet(*store_, file.toStdString(), none)->metresPerUnit;
                for (const auto& [unit, size] : {std::pair("centimetres", 0.01f), std::pair("millimetres", 0.001f),
                                                 std::pair("inches", 0.0254f), std::pair("feet", 0.3048f)})
                    if (std::abs(metres - size) < 0.01f * size)
                        e.set("unit", std::string(unit));
                added = e.id;
            });
            setSelected(added);
        });
}

void Session::importPlate(const QString& file)
{
    std::string added;
    edit("Import plate", [&](scene::Project& p) {
        const scene::ElementKind* kind = elements::findKind("plate");
        geometry::hasDepth(file.toStdString()); // throws for what is no picture
        scene::Element* e = nullptr;
        for (scene::Element& other : p.elements)
            if (other.kind == kind)
                e = &other;
        if (!e)
            e = &p.add(*kind, QFileInfo(file).completeBaseName().toStdString());
        e->set("picture", relativeTo(p, file));
        added = e->id;
    });
    setSelected(added);
}

void Session::exportVolume(const std::string& element, const QString& file, float voxel)
{
    runJob(
        "Exporting " + QFileInfo(file).fileName(),
        [project = project(), element, file, voxel, store = store_](JobControl& job) {
            elements::exportVolume(project, element, file.toStdString(), voxel, *store, job);
        },
        [] {});
}

void Session::importVolume(const QString& file)
{
    runJob(
        "Importing " + QFileInfo(file).fileName(),
        [file, store = store_](JobControl& job) {
            const auto grids = elements::keptVolumeFile(*store, file.toStdString(), job);
            std::string density = media::guessedGrid(*grids, "density");
            if (density.empty() && !grids->empty())
                density = grids->front().name;
            elements::keptGrid(*store, file.toStdString(), density, job);
        },
        [this, file] {
            std::string added;
            edit("Import " + QFileInfo(file).completeBaseName(), [&](scene::Project& p) {
                const JobControl none;
                const auto listed = elements::keptVolumeFile(*store_, file.toStdString(), none);
                const auto& grids = *listed;
                scene::Element& e = p.add(*elements::findKind("volume"),
                                          QFileInfo(file).completeBaseName().toStdString());
                e.set("file", relativeTo(p, file));
                const std::string density = media::guessedGrid(grids, "density"),
                                  heat = media::guessedGrid(grids, "temperature");
                if (density.empty() && !grids.empty())
                    e.set("density", grids.front().name);
                for (const media::VdbGrid& g : grids) {
                    if (g.name == (density.empty() ? grids.front().name : density)) {
                        const Vec3 size = g.high - g.low, middle = (g.low + g.high) * 0.5f;
                        const double thick = std::max(1e-3, double(std::min({size.x, size.y, size.z})));
                        // A third of its thinnest side is what lets a twentieth through at its mean, and it fills the
                        // view in part.
                        e.set("visibility",
                              std::strtod(formatNumber(std::max(0.01, thick / 3.0 * std::max(1e-6, g.most))).c_str(),
                                          nullptr));
                        const geometry::Camera c = camera();
                        const Vec3 ahead = c.position +
                                           (c.aim - c.position).normalized() * std::max(4.f, 1.6f * size.length());
                        const auto even = [](float v) { return std::round(v * 100.f) / 100.f; };
                        e.set("position", Vec3(even(ahead.x - middle.x), even(-g.low.y), even(ahead.z - middle.z)));
                    }
                    if (!heat.empty() && g.name == heat && g.most > 0.0) {
                        e.set("glow", std::string("blackbody"));
                        // Grids that do not count in kelvin reach from nothing to about one.
                        if (g.most < 100.0)
                            e.set("kelvin", std::strtod(formatNumber(2000.0 / g.most).c_str(), nullptr));
                    }
                }
                added = e.id;
            });
            setSelected(added);
        });
}

void Session::fitVeil(const std::string& element)
{
    const auto near = static_cast<double>(depthQuantile(0.1)), far = static_cast<double>(depthQuantile(0.97));
    if (near <= 0.0) {
        Q_EMIT failed(
            "The set's depth is not known yet: wait for the first picture, or bring a set or a plate with depth.");
        return;
    }
    edit("Veil from the set", [&](scene::Project& p) {
        scene::Element& e = *p.find(element);
        const auto even = [](double v) { return std::strtod(formatNumber(v).c_str(), nullptr); };
        e.set("near", even(near));
        e.set("far", even(std::max(far, near * 1.05)));
        if (shot_) // a veil of colour 1 shows as bright as a lit white
            e.set("brightness", std::round(10.0 * (-double(shot_->look.exposure) - 0.5)) / 10.0);
    });
}

std::vector<QString> Session::notes(const std::string& element) const
{
    std::vector<QString> out;
    if (shot_)
        for (const shot::Note& n : shot_->notes)
            if (element.empty() || n.element == element)
                out.push_back(QString::fromStdString(n.text));
    return out;
}

void Session::begin(const Task& task)
{
    task_ = task;
    if (task.what != Task::Nothing)
        setFreeCamera(std::nullopt); // distances and horizon are the shot's
    Q_EMIT taskChanged();
}

void Session::setSelected(const std::string& element)
{
    if (element == selected_)
        return;
    selected_ = element;
    Q_EMIT hoveredChanged();
}

QStringList Session::recentFiles() const
{
    QStringList existing;
    for (const QString& f : QSettings().value("recentFiles").toStringList())
        if (QFileInfo::exists(f))
            existing << f;
    return existing;
}

void Session::remember(const QString& file)
{
    QStringList list = recentFiles();
    const QString full = QFileInfo(file).absoluteFilePath();
    list.removeAll(full);
    list.prepend(full);
    QSettings().setValue("recentFiles", QStringList(list.mid(0, 10)));
}

void Session::runJob(const QString& name, const std::function<void(JobControl&)>& work,
                     const std::function<void()>& done)
{
    if (job_) {
        Q_EMIT failed(QString("%1 is still running. Wait for it or cancel it first.").arg(job_->name));
        return;
    }
    job_ = std::make_shared<Job>();
    job_->name = name;
    jobTimer_.start();
    Q_EMIT jobChanged(name, 0.0, {});
    job_->thread = std::thread([this, job = job_, work, done] {
        QString problem;
        bool good = false;
        try {
            work(job->control);
            good = true;
        } catch (const Cancelled&) {
        } catch (const std::bad_alloc&) {
            problem = "There is not enough memory. Nothing was replaced.";
        } catch (const std::exception& e) {
            problem = e.what();
        }
        QMetaObject::invokeMethod(this, [this, job, good, problem, done] {
            job->thread.join();
            if (job_ == job)
                job_.reset();
            jobTimer_.stop();
            Q_EMIT jobChanged({}, 1.0, {});
            if (std::exchange(quiet_, false) && !good)
                refreeze();
            if (!problem.isEmpty())
                Q_EMIT failed(problem);
            else if (good)
                done();
        });
    });
}

void Session::cancelJob()
{
    if (job_)
        job_->control.cancel();
}

void Session::setPictureSize(const QSize& pixels)
{
    if (pixels == pictureSize_ || pixels.width() < 8 || pixels.height() < 8)
        return;
    pictureSize_ = pixels;
    refreeze();
}

void Session::setFreeCamera(std::optional<geometry::Camera> camera)
{
    freeCamera_ = camera;
    Q_EMIT hoveredChanged();
    refreeze();
}

geometry::Camera Session::camera() const
{
    if (freeCamera_)
        return *freeCamera_;
    return shot_ ? shot_->camera : geometry::Camera();
}

void Session::refreeze()
{
    if (quiet_)
        return;
    dropReference();
    {
        const std::lock_guard lock(freezeMutex_);
        pending_ = std::make_unique<Pending>(Pending{previewed_ ? *previewed_ : project(), freeCamera_, pictureSize_});
    }
    freezeWake_.notify_one();
}

bool Session::isSettled()
{
    const std::lock_guard lock(freezeMutex_);
    return !pending_ && !freezing_ && picture_.clean && picture_.revision == lastRevision_;
}

void Session::freezeLoop()
{
    // Tables that every picture needs, made while the first project is being read.
    BlueNoise::tile();
    finish::Display warm{shot::Look()};
    std::unique_lock lock(freezeMutex_);
    while (!quit_) {
        if (!pending_) {
            freezeWake_.wait(lock);
            continue;
        }
        const auto pending = std::move(pending_);
        pending_ = nullptr;
        freezing_ = true;
        std::uint64_t revision = lastRevision_;
        lock.unlock();
        try {
            JobControl job;
            auto frozen = elements::freeze(pending->project, *store_, job);
            if (pending->camera) {
                auto copy = std::make_shared<shot::Shot>(*frozen);
                copy->camera = *pending->camera;
                frozen = copy;
            }
            if (pending->size.width() >= 32)
                revision = renderer_->setShot(frozen, pending->size.width(), pending->size.height());
            QMetaObject::invokeMethod(this, [this, frozen] {
                shot_ = frozen;
                Q_EMIT shotChanged();
            });
        } catch (const std::exception& e) {
            const QString what = e.what();
            QMetaObject::invokeMethod(this, [this, what] { Q_EMIT failed(what); });
        }
        lock.lock();
        freezing_ = false;
        lastRevision_ = revision;
    }
}
} // namespace hygros::app
