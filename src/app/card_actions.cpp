#include "app/card_actions.h"

#include "app/card.h"
#include "app/editors.h"
#include "app/session.h"
#include "app/theme.h"
#include "app/words.h"
#include "base/numbered.h"
#include "base/words.h"
#include "elements/cover_file.h"
#include "elements/plume_join.h"
#include "elements/points_file.h"
#include "elements/water_file.h"

#include <QBoxLayout>
#include <QFileDialog>
#include <QFileInfo>
#include <QInputDialog>
#include <QLineEdit>
#include <QPushButton>
#include <algorithm>
#include <functional>

namespace hygros::app {

namespace {
void exportVolume(Session& s, const std::string& id)
{
    float voxel = 0.f;
    const auto shot = s.picture().shot();
    for (const media::Volume& v : shot ? shot->volumes : std::vector<media::Volume>())
        if (v.id == id)
            voxel = 1.f / v.indexDirection(Vec3(1, 0, 0)).length();
    const scene::Element* e = s.project().find(id);
    const bool isGas = e && elements::kindOf(*e).isGas; // its voxels are those that it was simulated in
    if (isGas)
        voxel = 0.f;
    if (voxel > 0.f) {
        bool good = false;
        QString text = QString::fromStdString(formatQuantity(double(voxel), Quantity::Length));
        for (;;) {
            text = QInputDialog::getText(nullptr, say("Export as OpenVDB"),
                                         say("Size of the voxels; as it is shown now they are this large:"),
                                         QLineEdit::Normal, text, &good);
            if (!good)
                return;
            if (const auto size = parseQuantity(text.toStdString(), Quantity::Length); size && *size > 0.0) {
                // Left as it was offered, it is its own: untouched files are then copied value for
                // value.
                voxel = std::abs(*size / double(voxel) - 1.0) < 0.006 ? 0.f : static_cast<float>(*size);
                break;
            }
        }
    }
    const QString file = QFileDialog::getSaveFileName(
        nullptr,
        isGas ? say("Export the plume; #### stands for the number of each baked frame") : say("Export the volume"),
        isGas ? QString::fromStdString(id + ".####.vdb") : QString(), elements::volumeFiles);
    if (!file.isEmpty())
        s.exportVolume(id, file.endsWith(".vdb") ? file : file + ".vdb", voxel);
}

/// Asks for a file and writes it as a job; one whose ending is none of those offered gets the first of them.
void exportAs(Session& s, const QString& title, const QString& name, const QString& offered, const QStringList& endings,
              const std::function<void(const scene::Project&, const std::string& file, Store&, JobControl&)>& write)
{
    QString file = QFileDialog::getSaveFileName(nullptr, title, name, offered);
    if (file.isEmpty())
        return;
    if (std::none_of(endings.begin(), endings.end(), [&](const QString& e) { return file.endsWith(e); }))
        file += endings.front();
    s.jobs().run(
        say("Writing ") + QFileInfo(file).fileName(),
        [project = s.document().whole(), file, write, store = s.sharedStore()](JobControl& job) {
            write(project, file.toStdString(), *store, job);
        },
        [&s, file] { Q_EMIT s.told(say("Written: ") + file); });
}

void exportCover(Session& s, const std::string& id)
{
    exportAs(s, say("Export what lies: a mesh or a height map"), QString::fromStdString(id + ".ply"),
             say("Meshes (*.ply *.obj *.glb);;Height map (*.exr)"), {".ply", ".obj", ".glb", ".exr"},
             [id](const scene::Project& project, const std::string& file, Store& store, JobControl& job) {
                 elements::exportCover(project, id, file, 0.0, store, job);
             });
}

void exportPoints(Session& s, const std::string& id)
{
    exportAs(s, say("Export the points of this frame"), QString::fromStdString(id + ".vdb"),
             say("OpenVDB points (*.vdb);;PLY points (*.ply)"), {".vdb", ".ply"},
             [id](const scene::Project& project, const std::string& file, Store& store, JobControl& job) {
                 elements::exportPoints(project, id, file, store, job);
             });
}

void exportWater(Session& s, const std::string& id)
{
    exportAs(s, say("Export the water; #### stands for the number of each frame"),
             QString::fromStdString(id + ".####.ply"), say("Surface (*.ply *.obj *.glb);;Maps (*.exr)"),
             {".ply", ".obj", ".glb", ".exr"},
             [id](const scene::Project& project, const std::string& file, Store& store, JobControl& job) {
                 // All frames of the range, or the one that is shown.
                 const bool isOne = file.find('#') == std::string::npos;
                 const int first = isOne ? project.frameNumber() : project.time.first,
                           last = isOne ? first : project.time.last;
                 scene::Project now = project;
                 for (int f = first; f <= last; ++f) {
                     job.check();
                     job.report(static_cast<float>(f - first) / static_cast<float>(last - first + 1),
                                said("Frame ") + std::to_string(f));
                     if (!isOne)
                         now.frame = f;
                     elements::exportWater(now, id, numbered(file, f), {}, store, job);
                 }
             });
}

void take(Session& s, const std::string& id)
{
    elements::Taken taken;
    s.document().edit(say("Lamps and camera of a file"), [&](scene::Project& p) {
        const QSize size = s.picture().size();
        taken = elements::takeFromFile(p, id, s.store(), double(size.width()) / std::max(1, size.height()));
    });
    if (taken.distant > 0)
        Q_EMIT s.failed(say("%1 of the file's lamps are infinitely far: set the sun instead.").arg(taken.distant));
    else if (taken.lamps.empty() && !taken.camera)
        Q_EMIT s.failed(say("All its lamps were taken before."));
}

struct CardAction {
    QString id, label, help;
    std::function<void(Session&, const std::string& element)> run;
    std::function<bool(Session&, const std::string& element)> useful = {}; ///< null: always offered
};

const std::vector<CardAction>& all()
{
    const auto task = [](Selection::Task::What what) {
        return [what](Session& s, const std::string& id) { s.selection().begin({what, id}); };
    };
    static const std::vector<CardAction> actions{
        {"fit", say("Near and far from the set"),
         say("Takes the picture's depth: a tenth of it lies nearer than near, nearly all nearer than far."),
         [](Session& s, const std::string& id) { s.fit(id); }},
        {"bake", say("Bake"),
         say("Steps it through the frames and keeps each on disk; goes on where it stopped. While it bakes: stops it."),
         [](Session& s, const std::string& id) { s.baker().isBaking(id) ? s.baker().cancel(id) : s.baker().bake(id); }},
        {"purge", say("Purge"), say("Removes its baked frames from the disk."),
         [](Session& s, const std::string& id) { s.baker().purge(id); }},
        {"joinPlumes", say("Join overlapping plumes"),
         say("Makes one plume of this one and those whose boxes overlap it: what feeds and rides them goes with it."),
         [](Session& s, const std::string& id) {
             s.document().edit(say("Join plumes"), [&](scene::Project& p) { elements::joinPlumes(p, id); });
         },
         [](Session& s, const std::string& id) {
             const scene::Element* e = s.project().find(id);
             return e && !elements::overlapping(s.project(), *e).empty();
         }},
        {"exportVolume", say("Export as OpenVDB…"),
         say("Writes it as it stands here, combinations and tints included, on an even lattice with voxels of your "
             "choice."),
         exportVolume},
        {"exportWater", say("Export surface…"),
         say("Writes 60 m of it ahead of the camera as a mesh (.ply, .obj, .glb) or as maps (.exr), for each frame."),
         exportWater},
        {"exportCover", say("Export as mesh…"),
         say("Writes what lies (snow, puddles) as a mesh (.ply, .obj, .glb), or as a map of heights (.exr)."),
         exportCover},
        {"exportPoints", say("Export as points…"),
         say("Writes where they are at this frame as OpenVDB points or PLY, with speeds and sizes."), exportPoints},
        {"knownLength", say("Scale by a known length…"),
         say("Click two points in the Picture and type how far they are apart."), task(Selection::Task::KnownLength)},
        {"take", say("Take its lamps and camera"),
         say("Makes lamps of those in the file and looks through its first camera; they go with their parts of the "
             "set."),
         take,
         [](Session& s, const std::string& id) {
             const auto shot = s.picture().shot();
             return shot && std::any_of(shot->notes.begin(), shot->notes.end(), [&](const shot::Note& n) {
                        return n.element == id && n.text.starts_with(words("The file also holds "));
                    });
         }},
        {"place", say("Place by a click…"),
         say("Click a surface in the Picture: the lamp stands over it, or a little before it where it is a wall."),
         task(Selection::Task::PlaceLamp)},
        {"aim", say("Aim by a click…"), say("Click what it is to shine at."), task(Selection::Task::AimLamp)},
        {"strike", say("Strike by two clicks…"),
         say("Click in the Picture where it strikes, then where it comes from."), task(Selection::Task::StrikeTo)},
        {"placeWater", say("Set down by a click…"),
         say("Click in the Picture what the water stands on (a Pool) or the line that it is to reach (Open water)."),
         task(Selection::Task::PlaceWater)},
        {"focus", say("Focus by a click…"), say("Click in the Picture what is to be sharp; turns depth of field on."),
         task(Selection::Task::Focus)},
        {"horizon", say("Horizon and ground…"),
         say("Drag the horizon's line in the Picture to where the plate's is, and the ground's mark to a place that "
             "lies "
             "on the ground."),
         task(Selection::Task::Horizon)}};
    return actions;
}
} // namespace

void offerActions(Card& card, QVBoxLayout* column)
{
    for (const std::string& id : elements::kindOf(card.now()).actions)
        for (const CardAction& action : all()) {
            if (action.id.toStdString() != id)
                continue;
            auto* button = new QPushButton(action.label, column->parentWidget());
            button->setObjectName("do:" + action.id);
            button->setToolTip(action.help);
            button->setStyleSheet(plainButton());
            column->addWidget(button);
            QObject::connect(button, &QPushButton::clicked, &card,
                             [&card, run = action.run] { run(card.session(), card.element()); });
            if (!action.useful)
                continue;
            const auto look = [&card, button, useful = action.useful] {
                button->setVisible(useful(card.session(), card.element()));
            };
            look();
            card.onShot(look);
        }
}
} // namespace hygros::app
