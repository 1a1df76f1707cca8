#include "app/card_actions.h"

#include "app/session.h"

#include <QFileDialog>
#include <QInputDialog>
#include <QLineEdit>

namespace hygros::app {

namespace {
void exportVolume(Session& s, const std::string& id)
{
    float voxel = 0.f;
    const auto shot = s.picture().shot();
    for (const media::Volume& v : shot ? shot->volumes : std::vector<media::Volume>())
        if (v.id == id)
            voxel = 1.f / v.indexDirection(Vec3(1, 0, 0)).length();
    if (voxel > 0.f) {
        bool good = false;
        QString text = QString::fromStdString(formatQuantity(double(voxel), Quantity::Length));
        for (;;) {
            text = QInputDialog::getText(
                nullptr, "Export as OpenVDB",
                "Size of the voxels; as it is shown now they are this large:", QLineEdit::Normal, text, &good);
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
    const QString file = QFileDialog::getSaveFileName(nullptr, "Export the volume", {}, elements::volumeFiles);
    if (!file.isEmpty())
        s.exportVolume(id, file.endsWith(".vdb") ? file : file + ".vdb", voxel);
}

const std::vector<CardAction>& all()
{
    const auto task = [](Selection::Task::What what) {
        return [what](Session& s, const std::string& id) { s.selection().begin({what, id}); };
    };
    static const std::vector<CardAction> actions{
        {"fit", "Near and far from the set",
         "Takes the picture's depth: a tenth of it lies nearer than near, nearly all nearer than far.",
         [](Session& s, const std::string& id) { s.fit(id); }},
        {"bake", "Bake",
         "Steps it through the frames and keeps each on disk; goes on where it stopped. While it bakes: stops it.",
         [](Session& s, const std::string& id) { s.baker().isBaking(id) ? s.baker().cancel(id) : s.baker().bake(id); }},
        {"purge", "Purge", "Removes its baked frames from the disk.",
         [](Session& s, const std::string& id) { s.baker().purge(id); }},
        {"exportVolume", "Export as OpenVDB…",
         "Writes it as it stands here, combinations and tints included, on an even lattice with voxels of your choice.",
         exportVolume},
        {"knownLength", "Scale by a known length…", "Click two points in the Picture and type how far they are apart.",
         task(Selection::Task::KnownLength)},
        {"place", "Place by a click…",
         "Click a surface in the Picture: the lamp stands over it, or a little before it where it is a wall.",
         task(Selection::Task::PlaceLamp)},
        {"aim", "Aim by a click…", "Click what it is to shine at.", task(Selection::Task::AimLamp)},
        {"focus", "Focus by a click…", "Click in the Picture what is to be sharp; turns depth of field on.",
         task(Selection::Task::Focus)},
        {"horizon", "Horizon and ground…",
         "Drag the horizon's line in the Picture to where the plate's is, and the ground's mark to a place that lies "
         "on the ground.",
         task(Selection::Task::Horizon)}};
    return actions;
}
} // namespace

std::vector<CardAction> actionsOf(const elements::Kind& kind)
{
    std::vector<CardAction> out;
    for (const std::string& id : kind.actions)
        for (const CardAction& action : all())
            if (action.id.toStdString() == id)
                out.push_back(action);
    return out;
}
} // namespace hygros::app
