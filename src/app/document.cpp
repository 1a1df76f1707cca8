#include "app/document.h"

#include "app/words.h"

#include "base/error.h"
#include "elements/kinds.h"

#include <QFileInfo>
#include <QSettings>
#include <QStandardPaths>
#include <QUuid>
#include <cmath>
#include <utility>

namespace hygros::app {

namespace {
/// What is baked of a project that has no file yet lies in the cache, and goes along when it gets one.
std::filesystem::path unsavedFrames()
{
    return (QStandardPaths::writableLocation(QStandardPaths::CacheLocation) + "/baked/" +
            QUuid::createUuid().toString(QUuid::WithoutBraces))
        .toStdString();
}

void moveFolder(const std::filesystem::path& from, const std::filesystem::path& to)
{
    namespace fs = std::filesystem;
    std::error_code bad;
    if (!fs::is_directory(from, bad) || fs::exists(to, bad))
        return;
    fs::rename(from, to, bad);
    if (bad) { // another disk
        fs::copy(from, to, fs::copy_options::recursive, bad);
        fs::remove_all(bad ? to : from, bad);
    }
}
} // namespace

Document::Document(std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), store_(std::move(store)), history_(elements::newProject()), frame_(history_.now().frameNumber()),
      posed_(history_.now())
{
    amend([](scene::Project& p) { p.baked = unsavedFrames(); });
    changed_ = false;
}

void Document::changed()
{
    changed_ = true;
    pose();
    Q_EMIT projectChanged();
}

void Document::pose() { posed_ = scene::posed(history_.now(), frame_); }

scene::Project Document::whole() const
{
    scene::Project out = history_.now();
    out.frame = frame_;
    return out;
}

void Document::setRecording(bool on)
{
    if (on == isRecording())
        return;
    recordedFrom_ = on ? std::optional(frame_) : std::nullopt;
    Q_EMIT recordingChanged();
}

bool Document::setTrack(const std::string& element, const std::string& parameter, scene::Track track,
                        const QString& what, const QString& merge)
{
    return edit(
        what,
        [&](scene::Project& p) {
            scene::Element* e = p.find(element);
            if (!e)
                throw std::invalid_argument(said("there is no element '") + element + said("' any more"));
            e->setTrack(parameter, std::move(track));
            scene::checkFollows(p);
        },
        merge);
}

namespace {
QString keyed(const QString& what, const scene::Element& e, const std::string& parameter)
{
    const scene::Parameter* p = scene::findParameter(e.kind->parameters, parameter);
    return QString("%1: %2 %3")
        .arg(what, QString::fromStdString(e.name), QString::fromStdString(p ? p->label : parameter));
}
} // namespace

bool Document::setKey(const std::string& element, const std::string& parameter)
{
    const scene::Element* e = history_.now().find(element);
    const scene::Parameter* p = e ? scene::findParameter(e->kind->parameters, parameter) : nullptr;
    if (!p)
        return false;
    const scene::Track* was = e->track(parameter);
    scene::Track next = was ? *was : scene::Track();
    if (next.at(frame_))
        return true;
    scene::Key key = scene::keyAt(frame_, scene::keyedValue(*p, next, frame_, p->get(*e->settings)));
    for (const scene::Key& k : next.keys)
        if (k.frame < frame_)
            key.way = k.way;
    next.put(key);
    return setTrack(element, parameter, std::move(next), keyed(say("Key"), *e, parameter));
}

bool Document::removeKey(const std::string& element, const std::string& parameter)
{
    const scene::Element* e = history_.now().find(element);
    const scene::Track* was = e ? e->track(parameter) : nullptr;
    if (!was || !was->at(frame_))
        return false;
    scene::Track next = *was;
    const scene::Value last = was->at(frame_)->value;
    next.removeAt(frame_);
    // The last one leaves its value behind.
    return edit(keyed(say("Remove key"), *e, parameter), [&](scene::Project& p) {
        scene::Element* own = p.find(element);
        const bool left = !next.keys.empty();
        own->setTrack(parameter, std::move(next));
        if (!left)
            own->set(parameter, last);
    });
}

bool Document::setTime(const scene::TimeSettings& time, const QString& what, const QString& merge)
{
    return edit(
        what,
        [&](scene::Project& p) {
            time.check();
            p.time = time;
        },
        merge);
}

bool Document::edit(const QString& name, const std::function<void(scene::Project&)>& change, const QString& merge)
{
    scene::Project next = project();
    try {
        change(next);
        next = scene::withKeys(history_.now(), std::move(next), frame_,
                               recordedFrom_ ? std::optional<double>(*recordedFrom_) : std::nullopt);
    } catch (const std::invalid_argument& bad) {
        Q_EMIT failed(say("%1: %2. Nothing was changed.").arg(name, troubleOf(bad)));
        return false;
    } catch (const Error& bad) {
        Q_EMIT failed(troubleOf(bad));
        return false;
    }
    // What changes nothing is no step to undo.
    if (merge.isEmpty() && scene::toJson(next) == scene::toJson(history_.now()))
        return true;
    history_.push(std::move(next), name.toStdString(), merge.toStdString());
    changed();
    return true;
}

void Document::become(const QString& name, scene::Project next)
{
    next.folder = history_.now().folder;
    next.baked = history_.now().baked;
    next.frame = frame_;
    if (scene::toJson(next) == scene::toJson(whole()))
        return;
    history_.push(std::move(next), name.toStdString());
    changed();
}

void Document::setProofs(Proofs proofs)
{
    proofs_ = std::move(proofs);
    changed_ = true;
    Q_EMIT proofsChanged();
    Q_EMIT fileChanged();
}

void Document::amend(const std::function<void(scene::Project&)>& change)
{
    scene::Project next = history_.now();
    change(next);
    history_.amend(std::move(next));
    changed();
}

bool Document::setValue(const std::string& element, const std::string& parameter, const scene::Value& value,
                        const QString& merge)
{
    const scene::Element* e = project().find(element);
    if (!e)
        return false;
    const scene::Parameter* p = scene::findParameter(e->kind->parameters, parameter);
    return edit(
        QString::fromStdString(e->name + " " + (p ? p->label : parameter)),
        [&](scene::Project& next) { elements::setValue(next, element, parameter, value, *store_); }, merge);
}

Mat4 Document::frameOf(const std::string& element) const
{
    const scene::Element* e = project().find(element);
    if (!e)
        return {};
    JobControl job;
    return elements::frameOf(project(), *e, *store_, job);
}

Vec3 Document::placeOf(const std::string& element, const std::string& parameter) const
{
    Vec3 world;
    frameOf(element).multVecMatrix(std::get<Vec3>(project().find(element)->value(parameter)), world);
    return world;
}

bool Document::setPlace(const std::string& element, const std::string& parameter, const Vec3& world,
                        const QString& merge)
{
    Vec3 local;
    frameOf(element).inverse().multVecMatrix(world, local);
    for (int i = 0; i < 3; ++i)
        local[i] = std::round(local[i] * 1000.f) / 1000.f;
    return setValue(element, parameter, local, merge);
}

void Document::setFrame(int frame)
{
    if (std::exchange(frame_, frame) == frame)
        return;
    pose();
    Q_EMIT frameChanged();
}

void Document::undo()
{
    if (!history_.canUndo())
        return;
    history_.undo();
    changed();
}

void Document::redo()
{
    if (!history_.canRedo())
        return;
    history_.redo();
    changed();
}

void Document::goTo(std::size_t state)
{
    if (state == history_.at())
        return;
    history_.goTo(state);
    changed();
}

Document::~Document()
{
    if (file_.isEmpty() && !posed_.baked.empty()) {
        std::error_code none;
        std::filesystem::remove_all(posed_.baked, none);
    }
}

void Document::replace(scene::Project project, const QString& file)
{
    if (project.baked.empty())
        project.baked = file.isEmpty() ? unsavedFrames() : scene::bakedBeside(file.toStdString());
    proofs_.clear();
    for (scene::Proof& p : scene::takeProofs(project, elements::findKind))
        proofs_.push_back(std::make_shared<const scene::Proof>(std::move(p)));
    frame_ = project.frameNumber();
    recordedFrom_.reset();
    history_ = scene::History(std::move(project));
    file_ = file;
    changed_ = false;
    onDisk_ = versionOf(file.toStdString());
    lock_.acquire(file);
    pose();
    Q_EMIT recordingChanged();
    Q_EMIT projectReplaced();
    Q_EMIT proofsChanged();
    Q_EMIT projectChanged();
    Q_EMIT fileChanged();
}

void Document::restore(scene::Project project, const QString& file)
{
    replace(std::move(project), file);
    onDisk_ = {}; // whoever saved since then is asked about
    changed();
    Q_EMIT fileChanged();
}

Document::Clash Document::clash() const
{
    if (file_.isEmpty())
        return Clash::None;
    if (lock_.other(file_))
        return Clash::Open;
    const FileVersion now = versionOf(file_.toStdString());
    // What is not there any more is not written over.
    return now.size > 0 && (now.size != onDisk_.size || now.modified != onDisk_.modified) ? Clash::Changed
                                                                                          : Clash::None;
}

bool Document::save(const QString& file)
{
    try {
        scene::Project saved = whole();
        scene::putProofs(saved, proofs_, std::filesystem::absolute(file.toStdString()).parent_path());
        scene::saveProject(saved, file.toStdString());
    } catch (const std::exception& e) {
        Q_EMIT failed(troubleOf(e));
        return false;
    }
    // File names are now relative to the new place; take them over without a step in the history.
    if (file != file_) {
        const std::filesystem::path path = std::filesystem::absolute(file.toStdString());
        if (file_.isEmpty())
            moveFolder(project().baked, scene::bakedBeside(path));
        // What was done before can still be undone.
        const auto moved = [&](scene::Project& p) {
            p = scene::namedFrom(p, path.parent_path());
            p.baked = scene::bakedBeside(path);
        };
        history_.changeAll(moved);
        for (auto& proof : proofs_) {
            auto next = std::make_shared<scene::Proof>(*proof);
            if (next->isReadable())
                moved(next->state);
            proof = next;
        }
        file_ = file;
        pose();
        Q_EMIT proofsChanged();
        Q_EMIT projectChanged();
    }
    changed_ = false;
    onDisk_ = versionOf(file.toStdString());
    lock_.takeOver(file);
    remember(file);
    Q_EMIT fileChanged();
    return true;
}

std::string Document::relative(const QString& file) const
{
    const std::filesystem::path path = file.toStdString();
    const auto shorter = project().folder.empty() ? std::filesystem::path() : path.lexically_relative(project().folder);
    return (shorter.empty() ? path : shorter).generic_string();
}

QStringList Document::recentFiles()
{
    QStringList existing;
    for (const QString& f : QSettings().value("recentFiles").toStringList())
        if (QFileInfo::exists(f))
            existing << f;
    return existing;
}

void Document::remember(const QString& file)
{
    QStringList list = recentFiles();
    const QString full = QFileInfo(file).absoluteFilePath();
    list.removeAll(full);
    list.prepend(full);
    QSettings().setValue("recentFiles", QStringList(list.mid(0, 10)));
}
} // namespace hygros::app
