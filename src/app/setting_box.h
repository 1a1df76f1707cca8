#pragma once
/// A box in which a setting of the project is chosen.
#include "app/session.h"

#include <QComboBox>

namespace hygros::app {

/// Chooses a setting of the project by typing a part of its name.
class SettingBox : public QComboBox {
    Q_OBJECT
public:
    SettingBox(Session& session, const QString& none, QWidget* parent);
    void fill();
    std::string path() const;
    void setPath(const std::string& path);

private:
    Session& session_;
    QString none_;
};
} // namespace hygros::app
