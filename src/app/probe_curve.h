#pragma once
/// What a probe reads over the baked frames, or a buoy over all, worked out beside the window's thread, for the Motion
/// page.
#include "app/session.h"
#include "app/words.h"
#include "elements/buoy.h"
#include "elements/probe.h"

#include <QThreadPool>
#include <atomic>
#include <map>

namespace hygros::app {

class ProbeCurve : public QObject {
    Q_OBJECT
public:
    explicit ProbeCurve(Session& session, QObject* parent = nullptr);
    /// Waits for what is being read.
    ~ProbeCurve() override;
    /// Of which element; nothing is read of one that is no probe and no buoy. What is known of frames that have not
    /// changed stays.
    void want(const std::string& element);
    bool isOn() const { return wish_ || buoy_; }
    const QString& name() const { return name_; }
    /// A value as it is read.
    QString said(double value) const
    {
        return QString::fromStdString(
            buoy_ ? elements::buoyText(value)
                  : elements::probeText(value, wish_ ? wish_->quality : sim::Quality::Temperature));
    }
    /// Words where a frame has no value.
    QString missing() const { return buoy_ ? say("working it out") : say("this frame is not baked"); }
    /// By frame.
    const std::map<int, double>& values() const { return values_; }

Q_SIGNALS:
    void changed();

private:
    void read();
    void measure();
    Session& session_;
    std::optional<elements::ProbeWish> wish_;
    std::optional<elements::BuoyWish> buoy_;
    QString name_;
    std::map<int, double> values_;
    std::map<int, FileVersion> versions_;
    std::shared_ptr<std::atomic<bool>> stop_; ///< of what is being read
    QThreadPool pool_;
};
} // namespace hygros::app
