#pragma once
/// What is done to elements as things in the hand: doubled, copied, moved, grouped, muted, reset; one undo step each.
/// What is done to one of the chosen is done to all of them.
#include "app/document.h"
#include "app/selection.h"

#include <set>

namespace hygros::app {

class Arranger : public QObject {
    Q_OBJECT
public:
    Arranger(Document& document, Selection& selection, std::shared_ptr<Store> store, QObject* parent = nullptr);

    /// The chosen elements if `element` is one of them, else it alone; the chosen ones for an empty id.
    std::vector<std::string> with(const std::string& element) const;

    void duplicate(const std::vector<std::string>& elements);
    void remove(const std::vector<std::string>& elements);
    /// Into the clipboard, as text: the project's own JSON.
    void copy(const std::vector<std::string>& elements);
    /// From the clipboard, behind what is chosen.
    void paste();
    /// Whether the clipboard holds elements.
    static bool canPaste();
    void group(const std::vector<std::string>& elements, const QString& name);
    void ungroup(const std::string& group);
    void rename(const std::string& element, const QString& name);
    void renameGroup(const std::string& group, const QString& name);
    /// Before another element; at the end of the list for an empty id.
    void moveBefore(const std::vector<std::string>& elements, const std::string& before);
    /// A whole group before an element outside of it, or before that one's group.
    void moveGroupBefore(const std::string& group, std::string before);
    /// One place up or down among its family.
    void step(const std::string& element, int by);
    void setFlag(const std::vector<std::string>& elements, bool scene::Element::*flag, bool on);
    void setGroupFlag(const std::string& group, bool scene::Group::*flag, bool on);

    /// A setting of all of them that have it.
    bool setValues(const std::vector<std::string>& elements, const scene::Parameter& parameter,
                   const scene::Value& value, const QString& merge = {});
    /// Back to what a new element has; all settings for an empty list.
    void reset(const std::vector<std::string>& elements, const std::set<std::string>& parameters);
    /// What new elements of its kind begin with, from now on.
    void saveAsDefault(const std::string& element);
    void forgetDefault(const scene::ElementKind& kind);
    static bool hasDefault(const scene::ElementKind& kind);
    /// Gives a new element what was saved for its kind.
    static void applyDefault(scene::Element& element);

    /// Where the places of elements stand, and all of them moved from there.
    struct Place {
        std::string element, parameter;
        Vec3 world;
    };
    std::vector<Place> placesOf(const std::vector<std::string>& elements) const;
    void movePlaces(const std::vector<Place>& from, const Vec3& by, const QString& merge);

Q_SIGNALS:
    void failed(const QString& message);
    void told(const QString& message); ///< what was left out

private:
    QString nameOf(const std::vector<std::string>& elements) const;
    Document& document_;
    Selection& selection_;
    std::shared_ptr<Store> store_;
};
} // namespace hygros::app
