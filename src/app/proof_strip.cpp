#include "app/proof_strip.h"

#include "app/theme.h"
#include "app/words.h"

#include <QFileDialog>
#include <QMenu>
#include <QPainter>
#include <QPushButton>
#include <QScrollArea>
#include <QScrollBar>
#include <QVBoxLayout>

namespace hygros::app {
namespace {
constexpr int wide = 96, pictureHigh = 50;

/// One proof: its picture over its note. Enter or a click chooses it.
class ProofButton final : public QAbstractButton {
public:
    ProofButton(QImage picture, const QString& note, bool readable, QWidget* parent)
        : QAbstractButton(parent), picture_(std::move(picture)), note_(note), readable_(readable)
    {
        setCheckable(true);
        setFocusPolicy(Qt::StrongFocus);
        setCursor(Qt::PointingHandCursor);
        setFixedSize(wide - 12, pictureHigh + 20);
    }

protected:
    void paintEvent(QPaintEvent*) override
    {
        const Theme& t = Theme::now();
        QPainter p(this);
        const QRect frame(0, 0, width(), pictureHigh);
        p.fillRect(frame, QColor("#1d1e1f"));
        if (!picture_.isNull()) {
            QRect r(QPoint(), picture_.size().scaled(frame.size(), Qt::KeepAspectRatio));
            r.moveCenter(frame.center());
            p.drawImage(r, picture_);
        }
        const bool lit = isChecked() || underMouse() || hasFocus();
        p.setPen(QPen(isChecked() ? t.accent : lit ? t.text : t.rule, isChecked() || hasFocus() ? 2 : 1));
        p.drawRect(frame.adjusted(0, 0, -1, -1));
        p.setFont(textFont(11));
        p.setPen(!readable_ ? t.faint : isChecked() ? t.text : t.quiet);
        p.drawText(QRect(0, pictureHigh + 2, width(), 16), Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(note_, Qt::ElideRight, width()));
    }

private:
    QImage picture_;
    QString note_;
    bool readable_;
};
} // namespace

ProofStrip::ProofStrip(Session& session, QWidget* parent) : QWidget(parent), session_(session)
{
    setObjectName("proofStrip");
    setAttribute(Qt::WA_StyledBackground);
    setFixedWidth(wide);
    const Theme& t = Theme::now();
    setStyleSheet(QString("#proofStrip,#proofList{background:%1}QScrollArea{border:none;background:%1}"
                          "QPushButton{background:transparent;border:1px solid %2;color:%3;padding:3px 0}"
                          "QPushButton:hover,QPushButton:focus{border-color:%4}")
                      .arg(t.panel.name(), t.rule.name(), t.text.name(), t.accent.name()));
    auto* whole = new QVBoxLayout(this);
    whole->setContentsMargins(6, 8, 6, 8);
    whole->setSpacing(6);
    auto* keep = new QPushButton(say("Keep proof"), this);
    keep->setObjectName("keepProof");
    keep->setToolTip(say("Keeps the picture with the whole state that made it (F5)"));
    whole->addWidget(keep);
    connect(keep, &QPushButton::clicked, this, [this] { session_.proofs().keep(); });
    auto* scroll = new QScrollArea(this);
    scroll->setFocusPolicy(Qt::NoFocus);
    scroll->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    scroll->setWidgetResizable(true);
    list_ = new QWidget(scroll);
    list_->setObjectName("proofList");
    column_ = new QVBoxLayout(list_);
    column_->setContentsMargins(0, 0, 0, 0);
    column_->setSpacing(6);
    scroll->setWidget(list_);
    whole->addWidget(scroll, 1);
    auto* against = new QPushButton(say("Against…"), this);
    against->setObjectName("against");
    against->setToolTip(
        say("Holds the picture against itself without air, without an element, or against one from disk"));
    whole->addWidget(against);
    connect(against, &QPushButton::clicked, this, [this, against] {
        QMenu menu(this);
        menu.addAction(say("Without air"), this, [this] { session_.compare().withoutAir(); });
        menu.addAction(say("The reference"), this, [this] { session_.compare().withReference(); });
        for (const std::string& id : session_.selection().chosen())
            if (const scene::Element* e = session_.project().find(id); e && !e->kind->permanent)
                menu.addAction(say("Without ") + QString::fromStdString(e->name), this,
                               [this, id] { session_.compare().withoutElement(id); });
        menu.addAction(say("A picture from disk…"), this, [this] {
            const QString file = QFileDialog::getOpenFileName(window(), say("Hold the picture against"), {},
                                                              say("Pictures (*.png *.jpg *.jpeg *.tif *.tiff *.webp)"));
            if (!file.isEmpty())
                session_.compare().withFile(file);
        });
        menu.exec(against->mapToGlobal(QPoint(0, -menu.sizeHint().height())));
    });
    connect(&session.proofs(), &Proofs::changed, this, &ProofStrip::fill);
    connect(&session.compare(), &Compare::changed, this, [this] {
        for (auto* b : list_->findChildren<QAbstractButton*>())
            b->setChecked(session_.compare().proof() &&
                          b->property("proof").value<void*>() ==
                              const_cast<scene::Proof*>(session_.compare().proof().get()));
    });
    fill();
}

void ProofStrip::fill()
{
    while (QLayoutItem* item = column_->takeAt(0)) {
        delete item->widget();
        delete item;
    }
    const auto& all = session_.proofs().all();
    for (std::size_t i = 0; i < all.size(); ++i) {
        const Proofs::One proof = all[i];
        const QString note = proof->isReadable() ? QString::fromStdString(proof->note) : QString("?");
        auto* b = new ProofButton(session_.proofs().picture(proof), note, proof->isReadable(), list_);
        b->setObjectName(QString("proof:%1").arg(i));
        b->setProperty("proof", QVariant::fromValue(static_cast<void*>(const_cast<scene::Proof*>(proof.get()))));
        b->setToolTip(note + "\n" + Proofs::words(proof));
        b->setAccessibleName(say("Proof ") + note);
        b->setChecked(session_.compare().proof() == proof);
        connect(b, &QAbstractButton::clicked, this, [this, proof] {
            if (session_.compare().proof() == proof)
                return session_.compare().end();
            session_.compare().withProof(proof);
            Q_EMIT opened();
        });
        column_->addWidget(b);
    }
    column_->addStretch(1);
    const scene::Proof* last = all.empty() ? nullptr : all.back().get();
    if (std::exchange(newest_, last) != last && last)
        if (auto* scroll = findChild<QScrollArea*>())
            QMetaObject::invokeMethod(
                scroll, [scroll] { scroll->verticalScrollBar()->setValue(scroll->verticalScrollBar()->maximum()); },
                Qt::QueuedConnection);
}
} // namespace hygros::app
