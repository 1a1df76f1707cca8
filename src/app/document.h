#pragma once
/// The open project: edits with undo, and its file.
#include "base/store.h"
#include "scene/history.h"

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

    const scene::Project& project() const { return history_.now(); }
    const scene::History& history() const { return history_; }
    QString file() const { return file_; }
    bool hasUnsavedChanges() const { return changed_; }

    /// Applies `change` to a copy and makes it the present as one undo step (`merge` joins the steps of a drag).
    /// What the change throws as std::invalid_argument is shown; nothing is changed then. False on refusal.
    bool edit(const QString& name, const std::function<void(scene::Project&)>& change, const QString& merge = {});
    /// One setting, and what its kind says goes with it.
    bool setValue(const std::string& element, const std::string& parameter, const scene::Value& value,
                  const QString& merge = {});
    void endDrag() { history_.close(); }
    void undo();
    void redo();

    /// Where what an element's points are measured in stands: that of the set it goes with, else the world.
    Mat4 frameOf(const std::string& element) const;
    /// A point setting in the world, and setting it so.
    Vec3 placeOf(const std::string& element, const std::string& parameter) const;
    bool setPlace(const std::string& element, const std::string& parameter, const Vec3& world, const QString& merge = {});

    /// Another project in place of this one, without undo.
    void replace(scene::Project project, const QString& file);
    /// False and a message when it fails.
    bool save(const QString& file);
    /// A file's name as the project keeps it.
    std::string relative(const QString& file) const;
    static QStringList recentFiles();
    static void remember(const QString& file);

Q_SIGNALS:
    void projectChanged();  ///< anything in it
    void projectReplaced(); ///< another project
    void fileChanged();     ///< or whether it is saved
    void failed(const QString& message);

private:
    void changed();
    std::shared_ptr<Store> store_;
    scene::History history_;
    QString file_;
    bool changed_ = false;
};
} // namespace hygros::app
