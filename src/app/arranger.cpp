#include "app/arranger.h"

#include "app/words.h"

#include "base/error.h"
#include "elements/kinds.h"
#include "scene/arrange.h"

#include <QClipboard>
#include <QGuiApplication>
#include <QSettings>
#include <algorithm>
#include <cmath>

namespace hygros::app {
using scene::Element;
using scene::Project;

namespace {
QString defaultKey(const scene::ElementKind& kind) { return "defaults/" + QString::fromStdString(kind.id); }
} // namespace

Arranger::Arranger(Document& document, Selection& selection, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), selection_(selection), store_(std::move(store))
{
    // What is gone is not chosen any more.
    connect(&document, &Document::projectChanged, this, [this] {
        std::vector<std::string> left;
        for (const std::string& id : selection_.chosen())
            if (document_.project().find(id))
                left.push_back(id);
        if (left.size() != selection_.chosen().size())
            selection_.setChosen(left);
    });
}

std::vector<std::string> Arranger::with(const std::string& element) const
{
    return element.empty() || selection_.isChosen(element) ? selection_.chosen() : std::vector{element};
}

QString Arranger::nameOf(const std::vector<std::string>& elements) const
{
    if (elements.size() == 1)
        if (const Element* e = document_.project().find(elements.front()))
            return QString::fromStdString(e->name);
    return say("%1 elements").arg(elements.size());
}

void Arranger::duplicate(const std::vector<std::string>& elements)
{
    std::vector<std::string> added;
    document_.edit(say("Duplicate ") + nameOf(elements), [&](Project& p) {
        added = scene::duplicate(p, elements);
        if (added.empty())
            throw std::invalid_argument(said("there can be only one of it"));
    });
    if (!added.empty())
        selection_.setChosen(added);
}

void Arranger::remove(const std::vector<std::string>& elements)
{
    std::vector<std::string> gone;
    for (const std::string& id : elements)
        if (const Element* e = document_.project().find(id); e && !e->kind->permanent)
            gone.push_back(id);
    if (gone.empty())
        return;
    document_.edit(say("Remove ") + nameOf(gone), [&](Project& p) {
        for (const std::string& id : gone)
            p.remove(id);
    });
}

void Arranger::copy(const std::vector<std::string>& elements)
{
    if (!elements.empty())
        QGuiApplication::clipboard()->setText(QString::fromStdString(scene::partToText(document_.whole(), elements)));
}

bool Arranger::canPaste() { return QGuiApplication::clipboard()->text().left(400).contains("hygros-project"); }

void Arranger::paste()
{
    std::vector<std::string> added;
    std::size_t offered = 0;
    try {
        const Project part = scene::partFromText(QGuiApplication::clipboard()->text().toStdString(),
                                                 elements::findKind);
        offered = part.elements.size();
        document_.edit(offered == 1 ? say("Paste ") + QString::fromStdString(part.elements.front().name)
                                    : say("Paste %1 elements").arg(offered),
                       [&](Project& p) {
                           scene::Putting how;
                           how.keepsIds = true;
                           if (!selection_.selected().empty())
                               how.after = selection_.selected();
                           added = scene::putPart(p, part, how);
                           if (added.empty())
                               throw std::invalid_argument(
                                   said("the project has it already, and there can be only one of it"));
                           // Two of one name are told apart by a number.
                           for (const std::string& id : added) {
                               Element& e = *p.find(id);
                               const std::string name = std::exchange(e.name, {});
                               e.name = scene::freeName(p, name);
                           }
                       });
    } catch (const Error& e) {
        Q_EMIT failed(troubleOf(e));
        return;
    }
    if (added.empty())
        return;
    selection_.setChosen(added);
    if (added.size() < offered)
        Q_EMIT told(say("%1 of %2 were pasted; of the others there can be only one, and the project has it.")
                        .arg(added.size())
                        .arg(offered));
}

void Arranger::group(const std::vector<std::string>& elements, const QString& name)
{
    document_.edit(say("Group ") + name, [&](Project& p) { scene::makeGroup(p, elements, name.toStdString()); });
}

void Arranger::ungroup(const std::string& group)
{
    document_.edit(say("Dissolve the group"), [&](Project& p) { scene::dissolveGroup(p, group); });
}

void Arranger::rename(const std::string& element, const QString& name)
{
    const QString trimmed = name.trimmed();
    const Element* e = document_.project().find(element);
    if (!e || trimmed.isEmpty() || trimmed.toStdString() == e->name)
        return;
    document_.edit(say("Rename"), [&](Project& p) { p.find(element)->name = trimmed.toStdString(); });
}

void Arranger::renameGroup(const std::string& group, const QString& name)
{
    if (!name.trimmed().isEmpty())
        document_.edit(say("Rename"), [&](Project& p) { p.findGroup(group)->name = name.trimmed().toStdString(); });
}

void Arranger::moveBefore(const std::vector<std::string>& elements, const std::string& before)
{
    if (!elements.empty())
        document_.edit(say("Move ") + nameOf(elements), [&](Project& p) { scene::moveBefore(p, elements, before); });
}

void Arranger::moveGroupBefore(const std::string& group, std::string before)
{
    const Project& project = document_.project();
    const scene::Group* g = project.findGroup(group);
    const Element* target = project.find(before);
    if (!g || (target && target->group == group))
        return;
    // Groups do not stand in groups: before the other as a whole.
    if (target && !target->group.empty())
        before = scene::membersOf(project, target->group).front();
    const auto members = scene::membersOf(project, group);
    document_.edit(say("Move ") + QString::fromStdString(g->name), [&](Project& p) {
        scene::moveBefore(p, members, before);
        for (const std::string& id : members)
            p.find(id)->group = group;
    });
}

void Arranger::step(const std::string& element, int by)
{
    const Element* own = document_.project().find(element);
    if (!own)
        return;
    std::vector<std::string> family;
    for (const Element& e : document_.project().elements)
        if (e.kind->family == own->kind->family)
            family.push_back(e.id);
    const auto at = std::find(family.begin(), family.end(), element) - family.begin();
    // Before the one above; or before the one after the next, behind which it then stands.
    const auto to = by < 0 ? at - 1 : at + 2;
    if (to < 0 || (by > 0 && at + 1 >= std::ssize(family)))
        return;
    moveBefore({element}, to < std::ssize(family) ? family[static_cast<std::size_t>(to)] : std::string());
}

void Arranger::setFlag(const std::vector<std::string>& elements, bool Element::*flag, bool on)
{
    const QString what = flag == &Element::muted ? (on ? say("Mute ") : say("Unmute "))
                                                 : (on ? say("Solo ") : say("End solo of "));
    document_.edit(what + nameOf(elements), [&](Project& p) {
        for (const std::string& id : elements)
            if (Element* e = p.find(id); e && !elements::kindOf(*e).staysWhenSilent)
                e->*flag = on;
    });
}

void Arranger::setGroupFlag(const std::string& group, bool scene::Group::*flag, bool on)
{
    const scene::Group* g = document_.project().findGroup(group);
    if (!g)
        return;
    if (flag == &scene::Group::folded)
        return document_.amend([&](Project& p) { p.findGroup(group)->folded = on; });
    const QString what = flag == &scene::Group::muted ? say("Mute ") : say("Solo ");
    document_.edit(what + QString::fromStdString(g->name), [&](Project& p) { p.findGroup(group)->*flag = on; });
}

bool Arranger::setValues(const std::vector<std::string>& elements, const scene::Parameter& parameter,
                         const scene::Value& value, const QString& merge)
{
    if (elements.size() == 1)
        return document_.setValue(elements.front(), parameter.id, value, merge);
    return document_.edit(
        say("%1 of %2 elements").arg(QString::fromStdString(parameter.label)).arg(elements.size()),
        [&](Project& p) {
            for (const std::string& id : elements) {
                const Element* e = p.find(id);
                const scene::Parameter* own = e ? scene::findParameter(e->kind->parameters, parameter.id) : nullptr;
                if (own && own->type == parameter.type && own->quantity == parameter.quantity)
                    elements::setValue(p, id, parameter.id, value, *store_);
            }
        },
        merge);
}

void Arranger::reset(const std::vector<std::string>& elements, const std::set<std::string>& parameters)
{
    document_.edit(say("Reset ") + nameOf(elements), [&](Project& p) {
        for (const std::string& id : elements) {
            Element& e = *p.find(id);
            for (const scene::Parameter& q : e.kind->parameters)
                if ((parameters.empty() || parameters.count(q.id)) && (!scene::isDefault(e, q) || e.track(q.id)) &&
                    (!parameters.empty() || (q.type != scene::ValueType::File && q.linksTo.empty()))) {
                    e.motion.remove(q.id); // its keys would bring back what it was
                    e.set(q.id, q.fallback);
                }
        }
    });
}

void Arranger::saveAsDefault(const std::string& element)
{
    const Element* e = document_.project().find(element);
    if (!e)
        return;
    nlohmann::json settings = nlohmann::json::object();
    for (const scene::Parameter& p : e->kind->parameters)
        // Not what belongs to this one element: its place, its files, what it is linked to.
        if (!p.isPlace && p.type != scene::ValueType::File && p.linksTo.empty() && !scene::isDefault(*e, p))
            settings[p.id] = scene::jsonOf(p.get(*e->settings));
    QSettings().setValue(defaultKey(*e->kind), QString::fromStdString(settings.dump()));
    Q_EMIT told(say("New elements of the kind “%1” begin like “%2” from now on.")
                    .arg(QString::fromStdString(e->kind->label), QString::fromStdString(e->name)));
}

void Arranger::forgetDefault(const scene::ElementKind& kind) { QSettings().remove(defaultKey(kind)); }

bool Arranger::hasDefault(const scene::ElementKind& kind) { return QSettings().contains(defaultKey(kind)); }

void Arranger::applyDefault(Element& element)
{
    const std::string text = QSettings().value(defaultKey(*element.kind)).toString().toStdString();
    const nlohmann::json settings = nlohmann::json::parse(text, nullptr, false);
    if (!settings.is_object())
        return;
    for (const auto& [key, value] : settings.items())
        if (const scene::Parameter* p = scene::findParameter(element.kind->parameters, key))
            try {
                element.set(key, scene::valueOf(*p, value));
            } catch (const std::invalid_argument&) {
                // Saved by a version whose range was another.
            }
}

std::vector<Arranger::Place> Arranger::placesOf(const std::vector<std::string>& elements) const
{
    std::vector<Place> all;
    for (const std::string& id : elements)
        if (const Element* e = document_.project().find(id))
            for (const scene::Parameter& p : e->kind->parameters)
                if (p.isPlace)
                    all.push_back({id, p.id, document_.placeOf(id, p.id)});
    return all;
}

void Arranger::movePlaces(const std::vector<Place>& from, const Vec3& by, const QString& merge)
{
    document_.edit(
        say("Move %1 elements").arg(from.size()),
        [&](Project& p) {
            for (const Place& place : from) {
                if (!p.find(place.element))
                    continue;
                Vec3 local;
                document_.frameOf(place.element).inverse().multVecMatrix(place.world + by, local);
                for (int i = 0; i < 3; ++i)
                    local[i] = std::round(local[i] * 1000.f) / 1000.f;
                p.find(place.element)->set(place.parameter, local);
            }
        },
        merge);
}
} // namespace hygros::app
