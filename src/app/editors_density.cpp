/// Fields of a card that tell density in other words: as extinction or opacity, as scattering and absorption.
#include "app/ball_view.h"
#include "app/editors.h"
#include "app/lead_ruler.h"
#include "app/words.h"

namespace hygros::app {

QWidget* densityEditor(Card& card, const scene::Parameter& parameter)
{
    LeadRuler* ruler = rulerFor(card, parameter);
    struct Form {
        const char* word;
        double factor; ///< visibility ÷ what is shown; 0: extinction
    };
    static const std::array<Form, 5> forms{
        {{QT_TRANSLATE_NOOP("window", "visibility"), 1.0},
         {QT_TRANSLATE_NOOP("window", "extinction"), 0.0},
         {QT_TRANSLATE_NOOP("window", "mean free path"), visibilityConstant},
         {QT_TRANSLATE_NOOP("window", "hides half over"), visibilityConstant / std::log(2.0)},
         {QT_TRANSLATE_NOOP("window", "hides 99 % over"), visibilityConstant / std::log(100.0)}}};
    const auto form = [ruler](std::size_t which) {
        const Form& f = forms[which];
        if (which == 0)
            ruler->setForm(say(f.word), nullptr, nullptr);
        else if (f.factor == 0.0)
            ruler->setForm(
                say(f.word), [](double v) { return figures(extinctionOfVisibility(v)) + " /m"; },
                [](const QString& s) -> std::optional<double> {
                    const auto bare = parseQuantity(s.toStdString(), Quantity::Plain);
                    return bare && *bare > 0 ? std::optional(visibilityOfExtinction(*bare)) : std::nullopt;
                });
        else
            ruler->setForm(
                say(f.word),
                [factor = f.factor](double v) {
                    return QString::fromStdString(formatQuantity(v / factor, Quantity::Length));
                },
                [factor = f.factor](const QString& s) -> std::optional<double> {
                    const auto bare = parseQuantity(s.toStdString(), Quantity::Length);
                    return bare && *bare > 0 ? std::optional(*bare * factor) : std::nullopt;
                });
    };
    form(0);
    ruler->setToolTip(ruler->toolTip() + say("\nClick the word to see it as extinction, as mean free path, or as the "
                                             "thickness that hides half or 99 %."));
    QObject::connect(ruler, &LeadRuler::labelClicked, ruler, [form, which = std::size_t{0}]() mutable {
        which = (which + 1) % forms.size();
        form(which);
    });
    return ruler;
}

QWidget* ballEditor(Card& card, const scene::Parameter& parameter)
{
    auto* view = new BallView(&card);
    const auto pull = [&card, view, &parameter] {
        const scene::Element& e = card.now();
        // No larger than the volume's shortest side, and so that one still sees into it: four mean free paths.
        const elements::VolumeLook look = elements::lookOf(e);
        const float sigma = luminance(look.scattering + look.absorption);
        float diameter = sigma > 0.f ? 4.f / sigma : 4.f;
        if (const auto shot = card.session().picture().shot())
            for (const media::Volume& v : shot->volumes)
                if (v.id == card.element()) {
                    const Vec3 extent = v.bounds.max - v.bounds.min;
                    diameter = std::max(0.001f, std::min({diameter, extent.x, extent.y, extent.z}));
                }
        const auto ball = [&](const elements::VolumeLook& of) {
            return reading::BallOf{of.scattering, of.absorption, of.phase, diameter};
        };
        std::array<reading::BallOf, 3> denser;
        const auto own = std::get<std::string>(card.value(parameter));
        int linked = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            denser[i] = ball(elements::denserLook(e, BallView::ways[i], 2.0));
            if (own == BallView::ways[i])
                linked = static_cast<int>(i);
        }
        view->setBalls(ball(look), denser, linked);
    };
    card.onRefresh(pull);
    card.onShot(pull);
    QObject::connect(view, &BallView::chosen, &card,
                     [&card, &parameter](const QString& way) { card.set(parameter, way.toStdString()); });
    return view;
}
} // namespace hygros::app
