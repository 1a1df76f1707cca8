#include "app/project_lock.h"

#include <QCoreApplication>
#include <QDateTime>
#include <QFile>
#include <QFileInfo>
#include <QSysInfo>
#include <QUuid>
#include <cerrno>
#include <csignal>
#include <nlohmann/json.hpp>

namespace hygros::app {
using nlohmann::json;

namespace {
json contentOf(const QString& file)
{
    QFile f(file);
    return f.open(QIODevice::ReadOnly) ? json::parse(f.read(4096).toStdString(), nullptr, false) : json();
}
std::string text(const json& root, const char* key)
{
    return root.is_object() && root.contains(key) && root[key].is_string() ? root[key].get<std::string>()
                                                                           : std::string();
}
} // namespace

ProjectLock::~ProjectLock() { release(); }

QString ProjectLock::fileOf(const QString& project)
{
    const QFileInfo info(project);
    return info.absolutePath() + "/." + info.fileName() + "-lock";
}

std::optional<ProjectLock::Holder> ProjectLock::other(const QString& project) const
{
    const json root = contentOf(fileOf(project));
    if (!root.is_object() || (!id_.isEmpty() && text(root, "id") == id_.toStdString()))
        return std::nullopt;
    Holder h;
    h.host = QString::fromStdString(text(root, "host"));
    h.since = QString::fromStdString(text(root, "since")).replace('T', ' ');
    h.process = root.contains("process") && root["process"].is_number_integer() ? root["process"].get<qint64>() : 0;
    // One of this machine that crashed holds nothing any more.
    if (h.host == QSysInfo::machineHostName() &&
        (h.process <= 0 || (::kill(static_cast<pid_t>(h.process), 0) != 0 && errno == ESRCH)))
        return std::nullopt;
    return h;
}

void ProjectLock::acquire(const QString& project)
{
    release();
    if (!project.isEmpty() && !other(project))
        takeOver(project);
}

void ProjectLock::takeOver(const QString& project)
{
    release();
    const QString id = QUuid::createUuid().toString(QUuid::WithoutBraces);
    const json root{{"id", id.toStdString()},
                    {"host", QSysInfo::machineHostName().toStdString()},
                    {"process", QCoreApplication::applicationPid()},
                    {"since", QDateTime::currentDateTime().toString(Qt::ISODate).toStdString()}};
    QFile f(fileOf(project));
    if (!f.open(QIODevice::WriteOnly | QIODevice::Truncate))
        return;
    f.write(QByteArray::fromStdString(root.dump() + "\n"));
    file_ = f.fileName();
    id_ = id;
}

void ProjectLock::release()
{
    if (!file_.isEmpty() && text(contentOf(file_), "id") == id_.toStdString())
        QFile::remove(file_);
    file_.clear();
    id_.clear();
}
} // namespace hygros::app
