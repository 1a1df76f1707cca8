#pragma once
/// The strip of proofs at the left: each as a small picture with its note; a click holds the Picture against it.
#include "app/session.h"

#include <QWidget>

class QVBoxLayout;

namespace hygros::app {

class ProofStrip : public QWidget {
    Q_OBJECT
public:
    explicit ProofStrip(Session& session, QWidget* parent = nullptr);

Q_SIGNALS:
    void opened(); ///< more is to be known of the proof that was chosen

private:
    void fill();
    Session& session_;
    QWidget* list_;
    QVBoxLayout* column_;
    const scene::Proof* newest_ = nullptr; ///< scrolled to once
};
} // namespace hygros::app
