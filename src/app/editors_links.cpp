/// Fields of a card that name something else: an element of the project, a grid of a volume's file.
#include "app/editors.h"
#include "app/theme.h"
#include "app/words.h"
#include "geometry/chosen_faces.h"

#include <QBoxLayout>
#include <QLabel>
#include <QMenu>
#include <QPushButton>

namespace hygros::app {
namespace {
/// What the volume's file holds; empty until freezing, which reads it elsewhere, has brought it.
std::vector<media::VdbGrid> gridsOf(Session& session, const scene::Element& e)
{
    const auto file = std::get<std::string>(e.value("file"));
    const auto known = file.empty()
                           ? nullptr
                           : elements::volumeFileAtHand(session.store(), scene::resolved(session.project(), file));
    return known ? *known : std::vector<media::VdbGrid>();
}
/// An element to choose; of what can be gone with also its parts.
void offer(Card& card, const scene::Parameter& parameter, const scene::Element& e, QMenu& menu)
{
    constexpr std::size_t most = 200; // a menu that can still be read
    const QString name = QString::fromStdString(e.name);
    const auto set = [&card, &parameter](const std::string& id) {
        return [&card, &parameter, id] { card.set(parameter, id); };
    };
    std::vector<std::string> parts;
    if (JobControl job; parameter.isCarrier)
        parts = elements::partsOf(card.session().project(), e.id, card.session().store(), job);
    if (parts.size() < 2) {
        menu.addAction(name, &card, set(e.id));
        return;
    }
    QMenu* sub = menu.addMenu(name);
    sub->addAction(say("all of it"), &card, set(e.id));
    sub->addSeparator();
    for (std::size_t i = 0; i < std::min(parts.size(), most); ++i)
        sub->addAction(QString::fromStdString(parts[i]), &card, set(e.id + "/" + parts[i]));
}
QString count(std::uint64_t n)
{
    return n < 10000      ? QString::number(n)
           : n < 10000000 ? QString("%1 k").arg(n / 1000)
                          : QString("%1 M").arg(n / 1000000);
}
} // namespace

QWidget* linkEditor(Card& card, const scene::Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    auto* choose = new QPushButton(row);
    choose->setObjectName(QString::fromStdString(parameter.id));
    choose->setStyleSheet(plainButton() + "QPushButton::menu-indicator{width:0}");
    choose->setToolTip(QString::fromStdString(parameter.help));
    row->layout()->addWidget(choose);
    const bool named = parameter.linksTo == "name";
    const auto names = [&card, &parameter] {
        return elements::kindOf(card.now())
            .names(card.session().project(), card.now(), parameter, card.session().store());
    };
    auto* menu = new QMenu(choose);
    QObject::connect(menu, &QMenu::aboutToShow, &card, [&card, menu, named, names, &parameter] {
        menu->clear();
        if (named) {
            for (const std::string& name : names().all)
                menu->addAction(QString::fromStdString(name).replace("&", "&&"), &card,
                                [&card, name, &parameter] { card.set(parameter, name); });
        } else {
            for (const scene::Element& e : card.session().project().elements)
                if (e.kind->id == parameter.linksTo)
                    offer(card, parameter, e, *menu);
        }
        if (!std::get<std::string>(card.value(parameter)).empty())
            menu->addAction(named ? say("by itself") : say("nothing"), &card,
                            [&card, &parameter] { card.set(parameter, std::string()); });
        if (menu->isEmpty())
            menu->addAction(named ? say("Choose a file first") : say("There is none yet: add one first"))
                ->setEnabled(false);
    });
    choose->setMenu(menu);
    const auto pull = [&card, choose, named, names, &parameter] {
        const auto id = std::get<std::string>(card.value(parameter));
        if (named) {
            const std::string own = id.empty() ? names().byItself : id;
            const QString text = own.empty() ? say("choose…")
                                             : QString::fromStdString(own) + (id.empty() ? say(" (by itself)") : "");
            choose->setText(besideLabel(*choose, parameter, text));
            choose->setToolTip(text + "\n" + QString::fromStdString(parameter.help));
            return;
        }
        const scene::Element* e = card.session().project().find(id);
        const auto cut = e || !parameter.isCarrier ? std::string::npos : id.find('/');
        if (const scene::Element* set = cut == std::string::npos ? nullptr
                                                                 : card.session().project().find(id.substr(0, cut))) {
            choose->setText(QString::fromStdString(set->name + ": " + id.substr(cut + 1)));
            return;
        }
        choose->setText(id.empty() ? say("choose…")
                        : e        ? QString::fromStdString(e->name)
                                   : QString::fromStdString(id) + say(" (gone)"));
    };
    card.onRefresh(pull);
    if (named)
        card.onShot(pull);
    return row;
}

QWidget* gridsEditor(Card& card, const scene::Parameter& parameter)
{
    auto* facts = new QLabel(&card);
    facts->setObjectName("gridFacts");
    facts->setFont(figureFont(10));
    facts->setWordWrap(true);
    facts->setTextFormat(Qt::PlainText);
    facts->setStyleSheet(QString("color:%1").arg(Theme::now().quiet.name()));
    const auto pull = [&card, facts] {
        QStringList lines, memory;
        for (const media::VdbGrid& g : gridsOf(card.session(), card.now())) {
            lines << say("%1 %2, %3 m, %4 voxels, %5…%6")
                         .arg(QString::fromStdString(g.name.empty() ? said("(no name)") : g.name),
                              QString::fromStdString(g.kind == "level set" ? g.kind : g.type),
                              figures(double(g.voxel.x)), count(g.active), figures(g.least), figures(g.most));
            memory << say("%1 takes %2 MB").arg(QString::fromStdString(g.name), figures(double(g.bytes) / 1e6, 2));
        }
        if (const auto shot = card.session().picture().shot())
            for (const media::Volume& v : shot->volumes)
                if (v.id == card.element() && !lines.isEmpty()) {
                    // Its own voxels beside those of the file, as large as they are in the shot.
                    const auto chosen = std::get<std::string>(card.now().value("density"));
                    const auto all = gridsOf(card.session(), card.now());
                    const std::string name = chosen.empty() ? media::guessedGrid(all, "density") : chosen;
                    for (const media::VdbGrid& g : all)
                        if (g.name == name || all.size() == 1) {
                            lines << say("preview %1, file %2")
                                         .arg(QString::fromStdString(
                                                  formatQuantity(1.0 / double(v.indexDirection(Vec3(1, 0, 0)).length()),
                                                                 Quantity::Length)),
                                              QString::fromStdString(formatQuantity(
                                                  double(g.voxel.x) * std::get<double>(card.now().value("scale")),
                                                  Quantity::Length)));
                            break;
                        }
                    break;
                }
        facts->setToolTip(memory.join("\n"));
        facts->setText(lines.join("\n"));
        facts->setVisible(!lines.isEmpty());
    };
    card.onRefresh(pull);
    card.onShot(pull);
    return under(fileEditor(card, parameter), facts);
}

QWidget* facesEditor(Card& card, const scene::Parameter& parameter)
{
    QWidget* row = labelled(card, parameter);
    auto* count = new QLabel(row);
    count->setObjectName("paintedCount");
    count->setFont(figureFont(11));
    auto* paint = new QPushButton(say("Paint…"), row);
    paint->setObjectName("paintFaces");
    paint->setToolTip(say("In the Picture, with a round brush"));
    auto* clear = new QPushButton(say("Clear"), row);
    clear->setObjectName("clearFaces");
    clear->setToolTip(say("All faces feed again"));
    row->layout()->addWidget(count);
    for (QPushButton* b : {paint, clear}) {
        b->setStyleSheet(plainButton());
        row->layout()->addWidget(b);
    }
    QObject::connect(paint, &QPushButton::clicked, &card, [&card] {
        Selection& selection = card.session().selection();
        const bool isOn = selection.task().what == Selection::Task::PaintFaces &&
                          selection.task().element == card.element();
        selection.begin(isOn ? Selection::Task{} : Selection::Task{Selection::Task::PaintFaces, card.element()});
    });
    QObject::connect(clear, &QPushButton::clicked, &card, [&card, &parameter] { card.set(parameter, std::string()); });
    card.onRefresh([&card, count, clear, &parameter] {
        const auto text = std::get<std::string>(card.value(parameter));
        const auto chosen = geometry::ChosenFaces::parse(text);
        count->setText(text.empty() ? say("none") : chosen ? QString::number(chosen->count()) : say("damaged"));
        clear->setEnabled(!text.empty());
    });
    return row;
}
} // namespace hygros::app
