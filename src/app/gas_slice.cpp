#include "app/gas_slice.h"

#include "app/post.h"
#include "app/words.h"
#include "elements/plume_parts.h"

namespace hygros::app {
GasSlice::GasSlice(Session& session, QObject* parent) : QObject(parent), session_(session)
{
    pool_.setMaxThreadCount(1);
}

GasSlice::~GasSlice() { pool_.waitForDone(); }

void GasSlice::want(const std::string& element, const sim::SliceOrder& order)
{
    element_ = element;
    wanted_ = order;
    if (element_.empty()) {
        slice_.reset();
        why_.clear();
        Q_EMIT changed();
        return;
    }
    cut();
}

void GasSlice::cut()
{
    const auto shot = session_.picture().shot();
    if (element_.empty() || !shot)
        return;
    if (isCutting_) {
        again_ = true; // the newest is cut when this one is done
        return;
    }
    std::optional<elements::BakedFrame> frame;
    try {
        frame = elements::keptFrame(session_.project(), element_, shot->frame, session_.store());
    } catch (const std::exception&) {
    }
    if (!frame) {
        slice_.reset();
        why_ = say("frame %1 is not baked").arg(shot->frame);
        Q_EMIT changed();
        return;
    }
    isCutting_ = true;
    runOn(pool_, [this, frame = *frame, order = wanted_, shot, store = session_.sharedStore()] {
        std::shared_ptr<const sim::Slice> slice;
        QString why;
        try {
            const auto gas = elements::keptGas(frame, *store);
            slice = std::make_shared<const sim::Slice>(sim::sliceOf(*gas, shot->airflow.winds, order));
        } catch (const std::exception& e) {
            why = troubleOf(e);
        }
        post(this, [this, slice, why, order] {
            isCutting_ = false;
            slice_ = element_.empty() ? nullptr : slice;
            cutBy_ = order;
            why_ = why;
            Q_EMIT changed();
            if (std::exchange(again_, false))
                cut();
        });
    });
}
} // namespace hygros::app
