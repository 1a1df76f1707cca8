#pragma once
/// The section through a baked gas that the Transect shows, read and cut beside the window's thread.
#include "app/session.h"
#include "sim/smoke/slice.h"

#include <QThreadPool>

namespace hygros::app {

class GasSlice : public QObject {
    Q_OBJECT
public:
    explicit GasSlice(Session& session, QObject* parent = nullptr);
    /// Waits for what is being cut.
    ~GasSlice() override;
    /// What to show of which element; an empty one shows nothing.
    void want(const std::string& element, const sim::SliceOrder& order);
    const std::string& element() const { return element_; }
    /// As cut last; null: there is none, why() says why.
    const sim::Slice* slice() const { return slice_.get(); }
    const sim::SliceOrder& order() const { return cutBy_; }
    const QString& why() const { return why_; }

Q_SIGNALS:
    void changed();

private:
    void cut();
    Session& session_;
    std::string element_;
    sim::SliceOrder wanted_, cutBy_;
    std::shared_ptr<const sim::Slice> slice_;
    QString why_;
    bool isCutting_ = false, again_ = false;
    QThreadPool pool_;
};
} // namespace hygros::app
