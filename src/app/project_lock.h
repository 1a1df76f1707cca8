#pragma once
/// A file beside a project that says which window works on it, so that two do not write over each other.
#include <QString>
#include <optional>

namespace hygros::app {

class ProjectLock {
public:
    ~ProjectLock();
    struct Holder {
        QString host, since;
        qint64 process = 0;
    };
    /// Takes the lock of a project's file, if nobody who still runs holds it; lets go of any other. Where no file can
    /// be made there is no lock, and nobody holds it.
    void acquire(const QString& project);
    /// The same whoever holds it.
    void takeOver(const QString& project);
    void release();
    /// Who holds the lock of the project now, if that is somebody else who still runs.
    std::optional<Holder> other(const QString& project) const;

private:
    static QString fileOf(const QString& project);
    QString file_, id_;
};
} // namespace hygros::app
