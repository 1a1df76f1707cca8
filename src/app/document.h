#pragma once
/// The open project: edits with undo, and its file.
#include "app/project_lock.h"
#include "base/store.h"
#include "scene/evaluate.h"
#include "scene/history.h"
#include "scene/proof.h"

#include <QObject>
#include <QString>
#include <QStringList>
#include <functional>
#include <memory>

namespace hygros::app {

class Document : public QObject {
    Q_OBJECT
public:
    /// `store` is asked for the sets that elements go with.
    explicit Document(std::shared_ptr<Store> store, QObject* parent = nullptr);
    ~Document() override;

    /// As it stands at the frame that is looked at: keyed settings have their values there.
    const scene::Project& project() const { return posed_; }
    /// As it is saved: settings beside their keys; its frame is the one that is looked at. What is frozen is this.
    scene::Project whole() const;
    /// The frame that is looked at: of the window, not of the project's history. It is saved with the project.
    int frame() const { return frame_; }
    void setFrame(int frame);
    /// While on, every change makes a key: at the frame where it is made, and one with the old value where recording
    /// began.
    bool isRecording() const { return recordedFrom_.has_value(); }
    void setRecording(bool on);
    /// How one parameter changes over time. False and a message where it cannot.
    bool setTrack(const std::string& element, const std::string& parameter, scene::Track track, const QString& what,
                  const QString& merge = {});
    /// A key at the frame that is looked at with the value that it has there; or none any more.
    bool setKey(const std::string& element, const std::string& parameter);
    bool removeKey(const std::string& element, const std::string& parameter);
    /// First and last frame, rate, shutter, loop.
    bool setTime(const scene::TimeSettings& time, const QString& what, const QString& merge = {});
    const scene::History& history() const { return history_; }
    /// Kept states with their pictures, oldest first: of the project's file, not of its history.
    using Proofs = std::vector<std::shared_ptr<const scene::Proof>>;
    const Proofs& proofs() const { return proofs_; }
    void setProofs(Proofs proofs);
    QString file() const { return file_; }
    bool hasUnsavedChanges() const { return changed_; }

    /// Applies `change` to a copy and makes it the present as one undo step (`merge` joins the steps of a drag).
    /// What the change throws as std::invalid_argument is shown; nothing is changed then. False on refusal.
    bool edit(const QString& name, const std::function<void(scene::Project&)>& change, const QString& merge = {});
    /// Another whole state in place of the present one, as one undo step.
    void become(const QString& name, scene::Project next);
    /// A change that is not worth an undo step.
    void amend(const std::function<void(scene::Project&)>& change);
    /// One setting, and what its kind says goes with it.
    bool setValue(const std::string& element, const std::string& parameter, const scene::Value& value,
                  const QString& merge = {});
    void endDrag() { history_.close(); }
    void undo();
    void redo();
    /// To any state of the history.
    void goTo(std::size_t state);

    /// Where what an element's points are measured in stands: that of the set it goes with, else the world.
    Mat4 frameOf(const std::string& element) const;
    /// A point setting in the world, and setting it so.
    Vec3 placeOf(const std::string& element, const std::string& parameter) const;
    bool setPlace(const std::string& element, const std::string& parameter, const Vec3& world,
                  const QString& merge = {});

    /// Another project in place of this one, without undo.
    void replace(scene::Project project, const QString& file);
    /// The same for one that was not saved: it stays changed.
    void restore(scene::Project project, const QString& file);
    /// Whether saving to its own file would write over somebody else's work: the file has changed since it was read or
    /// saved here, or another window works on it.
    enum class Clash { None, Changed, Open };
    Clash clash() const;
    std::optional<ProjectLock::Holder> otherHolder() const { return lock_.other(file_); }
    /// False and a message when it fails.
    bool save(const QString& file);
    /// A file's name as the project keeps it.
    std::string relative(const QString& file) const;
    static QStringList recentFiles();
    static void remember(const QString& file);

Q_SIGNALS:
    void projectChanged();  ///< anything in it
    void projectReplaced(); ///< another project
    void proofsChanged();
    void frameChanged();
    void recordingChanged();
    void fileChanged(); ///< or whether it is saved
    void failed(const QString& message);

private:
    void changed();
    void pose();
    std::shared_ptr<Store> store_;
    scene::History history_;
    Proofs proofs_;
    QString file_;
    bool changed_ = false;
    int frame_ = 1;
    scene::Project posed_;
    std::optional<int> recordedFrom_;
    ProjectLock lock_;
    FileVersion onDisk_; ///< of the file as it was read or saved here
};
} // namespace hygros::app
