#include "app/recovery.h"

#include "app/post.h"
#include "app/words.h"

#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "elements/kinds.h"

#include <QBuffer>
#include <QDateTime>
#include <QDir>
#include <QStandardPaths>
#include <QUuid>

namespace hygros::app {
using nlohmann::json;

namespace {
constexpr int afterEdit = 500; ///< milliseconds from an edit to its being written, at most

QString lockOf(const QString& journal) { return journal + ".lock"; }

json readJournal(const QString& journal)
{
    const std::string doing = "Recovering", text = readText(journal.toStdString(), doing);
    checkJsonDepth(text, doing, journal.toStdString());
    json root = json::parse(text, nullptr, false);
    if (!root.is_object() || root.value("format", json()) != "hygros-recovery" || !root.contains("project"))
        throw inputError(doing, journal.toStdString(), said("it is damaged"));
    return root;
}
QString textOf(const json& root, const char* key)
{
    return root.contains(key) && root[key].is_string() ? QString::fromStdString(root[key].get<std::string>())
                                                       : QString();
}
} // namespace

QString Recovery::folder() { return QStandardPaths::writableLocation(QStandardPaths::AppDataLocation) + "/recovery"; }

Recovery::Recovery(Document& document, Picture& picture, QObject* parent)
    : QObject(parent), document_(document), picture_(picture)
{
    QDir().mkpath(folder());
    journal_ = folder() + "/" + QUuid::createUuid().toString(QUuid::WithoutBraces) + ".hygros-recovery";
    // Held while this window lives: so others know that it needs no recovering.
    lock_ = std::make_unique<QLockFile>(lockOf(journal_));
    lock_->setStaleLockTime(0);
    lock_->tryLock(0);
    timer_.setSingleShot(true);
    timer_.setInterval(afterEdit);
    connect(&timer_, &QTimer::timeout, this, &Recovery::keep);
    const auto look = [this] {
        if (document_.hasUnsavedChanges()) {
            if (!timer_.isActive())
                timer_.start();
            return;
        }
        timer_.stop();
        const std::lock_guard lock(mutex_);
        next_.reset();
        drop_ = true;
        wake_.notify_one();
    };
    connect(&document, &Document::projectChanged, this, look);
    connect(&document, &Document::fileChanged, this, look);
    connect(&document, &Document::proofsChanged, this, look);
    thread_ = std::thread([this] { loop(); });
}

Recovery::~Recovery()
{
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
    }
    wake_.notify_one();
    thread_.join();
    QFile::remove(journal_);
    lock_->unlock();
}

void Recovery::keep()
{
    const QImage image = picture_.state().image;
    {
        const std::lock_guard lock(mutex_);
        next_ = State{document_.whole(), document_.proofs(), document_.file(), image};
        drop_ = false;
    }
    wake_.notify_one();
}

void Recovery::loop()
{
    std::unique_lock lock(mutex_);
    while (!quit_) {
        if (drop_) {
            drop_ = false;
            QFile::remove(journal_);
        }
        if (!next_) {
            wake_.wait(lock);
            continue;
        }
        const State state = std::move(*next_);
        next_.reset();
        lock.unlock();
        try {
            write(state);
        } catch (const std::exception& e) {
            const QString what = troubleOf(e);
            post(this, [this, what] {
                if (!std::exchange(told_, true))
                    Q_EMIT failed(say("Unsaved work cannot be kept for recovery: ") + what);
            });
        }
        lock.lock();
    }
}

void Recovery::write(const State& state) const
{
    QByteArray bytes;
    QBuffer buffer(&bytes);
    if (!state.picture.isNull())
        state.picture.scaled(240, 150, Qt::KeepAspectRatio, Qt::SmoothTransformation).save(&buffer, "PNG");
    nlohmann::ordered_json root;
    root["format"] = "hygros-recovery";
    root["version"] = 1;
    root["name"] = state.project.name;
    root["file"] = state.file.toStdString();
    root["folder"] = state.project.folder.string();
    root["time"] = QDateTime::currentDateTime().toString(Qt::ISODate).toStdString();
    root["picture"] = bytes.toBase64().toStdString();
    scene::Project whole = state.project;
    scene::putProofs(whole, state.proofs, whole.folder);
    root["project"] = nlohmann::ordered_json::parse(scene::toJson(whole));
    writeTextAtomically(journal_.toStdString(), root.dump(1) + "\n");
}

std::vector<Recovery::Found> Recovery::found()
{
    // What a window that was killed was just writing aside is of no use to anybody.
    for (const QFileInfo& aside :
         QDir(folder()).entryInfoList({".*.hygros-recovery"}, QDir::Files | QDir::Hidden, QDir::Name)) {
        QLockFile lock(lockOf(folder() + "/" + aside.fileName().section('.', 1, 1) + ".hygros-recovery"));
        lock.setStaleLockTime(0);
        if (aside.fileName().startsWith('.') && lock.tryLock(0))
            QFile::remove(aside.absoluteFilePath());
    }
    std::vector<Found> all;
    for (const QFileInfo& info : QDir(folder()).entryInfoList({"*.hygros-recovery"}, QDir::Files, QDir::Time)) {
        const QString journal = info.absoluteFilePath();
        QLockFile lock(lockOf(journal));
        lock.setStaleLockTime(0);
        if (!lock.tryLock(0))
            continue; // its window is running
        lock.unlock();
        try {
            const json root = readJournal(journal);
            Found f;
            f.journal = journal;
            f.name = textOf(root, "name");
            f.file = textOf(root, "file");
            f.time = textOf(root, "time").replace('T', ' ');
            f.picture.loadFromData(QByteArray::fromBase64(textOf(root, "picture").toLatin1()), "PNG");
            all.push_back(f);
        } catch (const std::exception&) {
            // Never torn (it is written aside and renamed); something else's. It is left where it is.
        }
    }
    return all;
}

scene::Project Recovery::read(const QString& journal)
{
    const json root = readJournal(journal);
    scene::Project project = scene::fromJson(root["project"].dump(), journal.toStdString(), elements::findKind);
    project.folder = textOf(root, "folder").toStdString();
    return project;
}

QString Recovery::fileOf(const QString& journal) { return textOf(readJournal(journal), "file"); }

void Recovery::discard(const QString& journal)
{
    QFile::remove(journal);
    QFile::remove(lockOf(journal));
}
} // namespace hygros::app
