#pragma once
/// One picture being refined: what was seen (surfaces, shadows in the air, noise: means over passes, independent of
/// densities and colours) and one march of light through the present media by those means.
///
/// Order of use:   trace(pass), light() …   for pass = 0, 1, 2, …; quickPicture() any time after traceSurfaces(0).
/// When the air changes all that was seen is kept: setAir(), light() gives a picture as clean as the passes so far
/// allow, in one march.
///
/// The air of a pixel is cut into pieces that do not depend on what is in it; a piece's optical depth is its closed
/// form times the mean of its noise samples, its light is weighted by how often it was seen in the sun: means go into
/// the transport instead of pictures being averaged after it. Both converge to the same picture where noise and shadow
/// do not follow each other inside a piece; the transmittance converges to that of the noisy air itself.
#include "render/air_kernel.h"
#include "render/costs.h"
#include "render/lamp_glow.h"
#include "render/layers.h"
#include "render/planes.h"
#include "render/rain.h"
#include "render/ratio_row.h"
#include "render/shimmer.h"
#include "render/sounding.h"
#include "render/sparks.h"
#include "render/sun_map.h"
#include "render/surface.h"

#include <algorithm>
#include <atomic>
#include <memory>
#include <mutex>
#include <vector>

namespace hygros::render {
class PathIntegrator;

class Frame {
public:
    /// Picture sizes from 8×8 up.
    /// `only`: a picture of a part of the water alone, see WaterPart.
    Frame(std::shared_ptr<const shot::Shot> shot, int width, int height, WaterPart only = WaterPart::All);

    int width() const { return width_; }
    int height() const { return height_; }

    /// Other media, look or lamp strengths; scene, camera, lamp places and sun direction must be as they were.
    /// `noiseChanged`: where noise is sampled or what it is; it is then sampled anew.
    void setAir(std::shared_ptr<const shot::Shot> shot, bool noiseChanged);
    const shot::Shot& shot() const { return *shot_; }

    /// The first half of trace(): surfaces alone, enough for a quick picture.
    bool traceSurfaces(int pass, const std::atomic<bool>& stop);
    int surfacePasses() const { return surfacePasses_; }
    /// Traces one sample a pixel and looks at the lights from the air. Returns false when `stop` was raised; call again
    /// to go on where it ended. Does nothing when the pass is in already.
    bool trace(int pass, const std::atomic<bool>& stop);
    /// Marches the light through the air by all that was seen so far, with one more sample of the noise while there
    /// are fewer than passes (and at most noiseEnough); needs trace(0). False when stopped: the air is then half old.
    bool light(const std::atomic<bool>& stop);
    /// Paths are followed beside every march, and what they say of how much light there is counts (path_ratios.h);
    /// without them the picture is the march's alone. On from the start.
    void setFollowsPaths(bool follows) { followsPaths_ = follows; }
    const PathRatios& ratios() const { return ratios_; }
    /// What another frame of the same sets, in other light or from elsewhere, may begin with: what paths said, and
    /// photons of lamps.
    struct Known {
        PathRatios ratios;
        std::vector<std::shared_ptr<LampGlow>> glows;
    };
    Known known() const { return {ratios_, lampGlows_}; }
    /// More paths, where a picture is marched already: of that, once for every traced pass at most, `pathsEnough` in
    /// all. False when stopped, with nothing changed. light() does it once by itself, but for the first time after an
    /// edit.
    bool followPaths(const std::atomic<bool>& stop);
    bool pathsLeft() const;
    static constexpr int pathsEnough = 64;
    /// Begins with what was found for another frame of the same things.
    void beginWith(const Known& known);
    /// A frame of a sequence: what paths said of the first one (of which nothing is known yet; it looks four times as
    /// often) holds for all, so that what is left of their noise does not flicker.
    void holdRatios(const PathRatios& ratios);
    /// Before the first pass: looks do not go where noise is seen, so that pictures of parts add up to the whole.
    void lookEvenly() { looksEvenly_ = true; }
    /// Before the first pass: which pass it counts as where random numbers are drawn, so that frames of which a mean is
    /// taken draw others.
    void drawFrom(int pass) { draw_ = pass; }
    /// Whether the last march stands for the present media.
    bool isLit() const { return lit_; }
    int tracedPasses() const { return tracedPasses_; }
    /// Samples of the noise in every row; as many as passes when no medium has noise.
    int noisePasses() const;
    static constexpr int noiseEnough = 48;

    /// A whole picture from air at a quarter of the size, surfaces lit at full size: linear RGB.
    bool quickPicture(std::vector<float>& rgb, const std::atomic<bool>& stop);
    /// The picture of the last march: linear RGB. While little was seen the air is smoothed along even depths.
    void resolve(std::vector<float>& rgb) const;
    /// Of the last march; `sources`: with the set's light by its source.
    Layers layers(bool sources = false) const;
    Layers layers(LayerWish wish);
    const SparkPicture& sparks() const { return sparks_; }
    const Shimmer& shimmer() const { return shimmer_; }
    const RainPicture& rain() const { return rain_; }
    /// Air light of one medium alone, or (lamp ≥ 0) all light of one lamp, at the quarter size: for thumbnails.
    struct Contribution {
        int width = 0, height = 0;
        std::vector<float> rgb;
    };
    Contribution mediumAlone(const std::string& id);
    Contribution lampAlone(const std::string& id);

    /// What the line of sight of pixel (x, y) meets, by the last march; empty before it.
    Sounding soundingAt(int x, int y) const;
    std::size_t bytes() const;
    /// What lamps and elements take of a pass, from the passes since the last change.
    Costs costs() const;
    /// How often pixel (x, y) was looked at.
    int looksAt(int x, int y) const { return static_cast<int>(samples_[index(x, y)]); }
    /// Distance along the ray to what covers most of pixel (x, y).
    float depthAt(int x, int y) const;

private:
    static constexpr int clusterCount = 3;
    static constexpr int mirrorSegments = 6;
    static constexpr int quickSegments = 12;
    struct Cluster {
        float weight = 0.f, t = 0.f;   ///< samples in it; their mean distance
        float shaded = 0.f;            ///< those whose light was looked at
        float sum = 0.f, square = 0.f; ///< of the luminance that these sent, with what they mirror, and of its square
        std::uint16_t held = 0;        ///< samples that met a matte: a hole in the picture
        std::uint16_t fromPlate = 0;   ///< those that met the plate: its light is the plate's own
        /// Share of the samples that are the plate's.
        float plateShare() const { return fromPlate == 0 ? 0.f : static_cast<float>(fromPlate) / weight; }
        LightParts light; ///< sums over these
    };
    /// The air before and above the surfaces of a pixel: view < 0 where the cluster was not marched yet.
    /// What the air leaves of light on its way to a surface, as AirModel::SurfaceWays.
    struct Onto {
        float sun = 0.f, diffuse = 0.f, sky = 0.f, around = 0.f;
    };
    static Onto laneOf(const AirModel::SurfaceWays& w, int i)
    {
        return {w.sun[i], w.diffuse[i], w.sky[i], w.around[i]};
    }
    struct Through {
        float view[clusterCount]{-1.f, -1.f, -1.f};
        Onto onto[clusterCount];
    };
    /// How much there is to find out about a pixel's coverage.
    enum class Coverage : std::uint8_t {
        Even,
        Edge,
        BareSky,
        Steep, ///< a lamp's light changes much from pixel to pixel
        Disc   ///< of the sun or the moon in the sky, or where a lamp's own glow ends
    };
    struct MirrorCluster {
        float weight = 0.f, t1 = 0.f, t = 0.f;
        Vec3 point{0.f}, direction{0.f}, reflectance{0.f};
        LightParts light;
        Vec3 airSun{0.f}, airSky{0.f}, airOwn{0.f}; ///< the last: bodies' own light, and of lamps in them
        float view = -1.f;                          ///< of the last march; below 0: none yet
        Onto onto;                                  ///< of the same
        Vec3 tint{1.f};                             ///< of clean air on the mirrored way
    };
    struct Mirror {
        std::uint32_t pixel = 0;
        MirrorCluster clusters[2];
    };
    /// What was seen by the mirrored rays of one row, by slot (two a mirror).
    struct MirrorsSeen {
        std::vector<std::uint8_t> looks;      ///< [slot]
        std::vector<std::uint8_t> sunLit;     ///< [slot][mirrorSegments]
        std::vector<std::uint16_t> noise;     ///< [slot][noisy][2·mirrorSegments + 1]
        std::vector<std::uint8_t> noiseLooks; ///< [slot]
        std::vector<float> bodies; ///< [slot][looks, planes of all bodies] means of what the mirrored ray met of them
        /// [slot][lamp] the lamps' light by way of the mirrored air: a mean of [slot] looks; 0: none, or a neighbour's.
        std::vector<Vec3> lampAir;
        std::vector<std::uint8_t> lampLooks;
        std::uint32_t lampTurn = 0; ///< marches
    };
    /// One mirrored pixel for quick pictures, in halves: per sample emitted, sun, sky, reflectance; then the distance
    /// along the mirrored ray and the share of the pixel; 0 there: more than one thing is mirrored, or lamps light it.
    struct MirrorSheet {
        std::uint16_t emitted[4], sun[4], sky[4], open[4], reflectance[3], share;
        float t;
    };
    struct QuickCell {
        geometry::SightRay sight;
        float span = 0.f, logScale = 0.f, last = 0.f, jitter = 0.f;
        int segments = quickSegments; ///< the same for the eight of a group
    };

    /// Where light comes from: everything, what shines by itself, sun, sky, what mirrors show of bodies' own light (a
    /// part of what shines by itself), then the lamps from `sourceLamps` on.
    enum Source { allSources = -1, sourceOwn, sourceSun, sourceSky, sourceBodies, sourceLamps };
    /// The air's light without shadows of the set.
    void addShadows(Layers& out);
    struct Unshadowed {
        Colours sun, lamps; ///< as airSun_ and airLamp_
    };
    std::size_t index(int x, int y) const
    {
        return static_cast<std::size_t>(y) * static_cast<std::size_t>(width_) + static_cast<std::size_t>(x);
    }
    std::size_t groupsPerRow() const { return (static_cast<std::size_t>(width_) + 7) / 8; }
    std::size_t groupAt(int x, int y) const
    {
        return static_cast<std::size_t>(y) * groupsPerRow() + static_cast<std::size_t>(x / lanes);
    }
    /// Rays through the centres of eight pixels from x on; the last column is repeated past the edge.
    media::Ray8 raysAt(int x, int y) const;
    void surfacesRow(int y, int pass);
    void meterRow(const Meter& row);
    /// The cluster a sample at distance t belongs to; makes room for it.
    int clusterFor(std::size_t pixel, float t);
    /// Looks of one row that are traced together.
    struct Looks;
    /// More looks of the first pass where distances differ, so that edges are edges from the start.
    void edgesRow(int y);
    void lookAhead(Looks& looks, int y, bool toSun) const;
    void lookAtSurface(const Looks& looks, std::size_t which, int y, std::span<Vec3> lamps, std::span<Vec3> mirrorLamps,
                       double* clock);
    /// Lists for every group of eight pixels the lamps whose light can be met in its tile of the picture.
    void listLamps();
    std::span<const std::uint16_t> lampsOf(std::size_t group) const
    {
        return {lampList_.data() + lampBase_[group], lampBase_[group + 1] - lampBase_[group]};
    }
    std::size_t lampSlots() const { return lampList_.size(); }
    /// Summed light of the lamp that is `j`-th in a group's list on a pixel's cluster; the next lamp's is `lampStride`
    /// further.
    const Vec3* lampOn(std::size_t group, int cluster, int lane, std::size_t j = 0) const
    {
        return lampLight_.at(lampBase_[group] + j, static_cast<std::size_t>(cluster)) + lane;
    }
    Vec3* lampOn(std::size_t group, int cluster, int lane, std::size_t j = 0)
    {
        return lampLight_.at(lampBase_[group] + j, static_cast<std::size_t>(cluster)) + lane;
    }
    /// Of a pixel in what is kept by slot and lane.
    std::size_t inSlots(std::size_t group, std::size_t j, int x) const
    {
        return (lampBase_[group] + j) * lanes + static_cast<std::size_t>(x % lanes);
    }
    static constexpr std::size_t lampStride = clusterCount * lanes;
    std::size_t groupOf(std::size_t pixel) const
    {
        return groupAt(static_cast<int>(pixel % static_cast<std::size_t>(width_)),
                       static_cast<int>(pixel / static_cast<std::size_t>(width_)));
    }
    void addMirror(int y, std::size_t pixel, const SurfaceSample::Mirror& m, float t1, const Vec3* lamps);
    /// How far the air before each pixel is looked at: as far as anything is seen around it in the first pass; later,
    /// farther where something farther was found.
    void findSpans();
    void growSpans();
    void settlePieces(int y);
    /// Which pixels see through all of the lens; nothing without one.
    void findBlurred();
    void forgetSharp(int x, int y);
    /// How often a row's piece i was looked at from `passes` traces: by all in the first, then by a third each.
    static int sunLooks(int piece, int passes) { return std::max(1, (passes - 1 + 2 - (piece + 2) % 3) / 3); }
    void lookFromAirRow(int y, int pass);
    /// Makes the map of the sun's shadows ready for a pass of looks from the air; none without sun or set.
    void beginSunMap(int pass);
    /// Which of a pass' maps eight pixels go by at the first of their pieces that are looked at; from there on in
    /// turns, so that the light of a pixel has its share of all. Of two neighbours one begins with each, by chance
    /// which: what maps differ in is noise over the passes and no pattern. < 0: there are none.
    int firstMapOf(int x, int y) const
    {
        const auto of = [](int v) { return static_cast<std::uint32_t>(v); };
        const int group = x / lanes;
        const std::uint32_t chance = hash32(of(group / sunMaps) + 65536u * of(y / sunMaps), of(draw_ + sunMapPass_));
        return sunMap_[0] ? static_cast<int>((of(group) + of(y) + chance) % sunMaps) : -1;
    }
    enum class Look {
        Each,    ///< from every piece; sets the counts to 0 or 1
        Grouped, ///< one speaks for each group of three; sets the counts
        Turn,    ///< from a third of the pieces, turning from pass to pass; adds to the counts
    };
    /// Shadows on the air of eight rays: sunLit [segments][8] and skyLit [segments / 3][8] (or null); the sun's by
    /// maps, or each by a ray of its own (`firstMap` < 0).
    void lookToLights(const media::Ray8& ray, F8 end, F8 jitter, int segments, int pass, Look look, unsigned active,
                      int firstMap, std::uint8_t* sunLit, std::uint8_t* skyLit, int x, int y) const;
    /// Shares of sun and sky seen from the pieces of eight rays, by the looks of each pixel and, while these are few,
    /// of its neighbours.
    void seenFromAir(int x, int y, F8 end, F8* sun, F8* sky) const;
    /// `out`: nothing is kept or sampled; the light without shadows goes there.
    void lightRow(int y, Unshadowed* out = nullptr);
    struct GlowRow;
    /// Adds what a row's rays have found of lamps' glows; `first`: of the first march.
    void addGlowRow(int y, const GlowRow& row, bool first);
    /// `share` (quick pictures): neighbours may be marched together, and those with a neighbour in row `lead` are left
    /// out: they are lit by its air. `sampleNoise`: once more; else only where it never was.
    void lightMirrorsRow(int y, bool sampleNoise, bool share, int lead = -1);
    void lampsInMirror(const MarchedRay& way, MirrorsSeen& seen, std::uint32_t slot, int y) const;
    /// The cluster in row `lead` whose air stands for one of column x at distance t; null when that row mirrors nothing
    /// there.
    const MirrorCluster* leadingMirror(int x, int lead, float t) const;
    /// Of surfaces: as AirRays8::kept, for a pixel group's cluster; quick pictures alone keep it.
    float* surfaceKept(std::size_t group, int cluster);
    void makeKeptRoom();
    NoiseRecord surfaceNoise(std::size_t group, int cluster, bool sample, F8 weight);
    /// Air light and transmittance (in the fourth lane) from the eye up to depth t in a quick cell.
    __m128 airUpTo(std::size_t cell, float t, float logT, float& trust) const;
    void makeNoiseRoom();
    bool hasNoise() const { return air_->noisyCount() > 0; }
    /// Air between surfaces and their light at eight points on surfaces that face `normal`.
    AirModel::SurfaceWays surfaceAir(const media::Ray8& ray, F8 depth, const F8 normal[3], F8 jitter,
                                     const NoiseRecord& noise, float* kept = nullptr) const;
    void findEdges(bool first = false);
    /// After so many passes: how many looks a pass each pixel gets, by what noise of it would be seen. What is even or
    /// dark is looked at every second pass, twigs before the sky and small bright things up to 16 times.
    void shareLooks(int passes);
    /// Lamps' share of what a pixel's first cluster reflects, air left out, and their light itself.
    float lampShare(int x, int y, float& lamps) const;
    /// Clusters 0 in planes, for lighting eight pixels at once.
    void packSurfaces();
    void packLamps();
    /// As litMirrors(), from the sheet; view: transmittance to the mirror, by channel.
    __m128 litFromSheet(const MirrorSheet& sheet, const MirrorCluster& air, __m128 view,
                        const PathRatios::By& ratio) const;
    /// Light of summed parts through the air, per sample.
    /// `lamps`: what the air leaves of each lamp's light, lanes apart; null: worked out at point().
    template <class Point>
    Vec3 lit(const LightParts& light, std::span<const std::uint16_t> which, const Vec3* lamps, std::size_t stride,
             const Point& point, const Onto& onto, float samples, const float* through = nullptr,
             int source = allSources, const PathRatios::By* ratio = nullptr) const;
    /// What the air leaves of the lamps' light at eight pixels' clusters, and what it sends there by itself:
    /// [cluster][lamp of the group][lampWays] lanes: a share, and the irradiance of glowOnto().
    void lampsThrough(int x, int y, const media::Ray8& ray, std::vector<F8>& out) const;
    static constexpr std::size_t lampWays = 4;
    /// Irradiance at eight points of surfaces by what the air and the set make of a lamp's light, per intensity of 1.
    void glowOnto(std::size_t lamp, F8 x, F8 y, F8 z, const F8 normal[3], F8 irradiance[3]) const;
    void makeLampGlows();
    void feedLampGlows();
    /// Sources whose light both know.
    std::array<bool, PathRatios::sources> comparable() const;
    /// Follows some paths after a march.
    PathRatios::Look lookByPath(int x, int y, Random& random, std::span<const int> kind, std::span<float> setBy,
                                std::span<float> airBy, long long& events) const;
    /// The next looks; returns how many events their paths have met, < 0 when stopped.
    long long lookByPaths(std::span<const int> kind, std::vector<PathRatios::Look>& looks,
                          const std::atomic<bool>& stop);
    void addLooks(std::vector<PathRatios::Look>& looks, const std::array<bool, PathRatios::sources>& compared);
    /// Of eight neighbours' air and of their first clusters, lanes apart.
    struct QuickRatios {
        PathRatios::By mirror;
        F8 air[3] = {f8(1.f), f8(1.f), f8(1.f)};
        F8 set[PathRatios::sources][3] = {
            {f8(1.f), f8(1.f), f8(1.f)}, {f8(1.f), f8(1.f), f8(1.f)}, {f8(1.f), f8(1.f), f8(1.f)}};
    };
    /// `sheet`: the group's of sheet_.
    void quickRatiosAt(int x, int y, const float depth[lanes], const std::uint16_t* sheet, const RatioRow& row,
                       QuickRatios& out) const;
    RatioRow ratioRow(int y) const { return {ratios_, width_, height_, y}; }
    PathRatios::By airRatio(int x, int y, const RatioRow& row) const { return row.air(x, depthAt(x, y)).unpacked(); }
    PathRatios::By mirrorRatio(int x, int y, const RatioRow& row) const
    {
        return row.mirror(x, depthAt(x, y)).unpacked();
    }
    /// Of a pixel's cluster; false where its light stays as it was marched.
    bool setRatioOf(std::size_t pixel, int y, int cluster, const RatioRow& row, PathRatios::By& out) const;
    /// The air's light before a pixel, as it was marched; `beamShare`: one over the marches in airLamp_.
    Vec3 airOf(std::size_t pixel, float beamShare, const PathRatios::By& ratio) const;
    /// The mirrored part of a pixel's surfaces; `view` are the transmittances to its clusters.
    Vec3 litMirrors(std::size_t pixel, int y, const Vec3* view, int lead = -1, int source = allSources,
                    const PathRatios::By* ratio = nullptr) const;
    /// What clean air and veils do to the light of a distance: tint what lies behind the air; then picture → times ·
    /// picture + plus.
    struct Overlay {
        Vec3 tint{1.f}, times{1.f}, plus{0.f};
    };
    bool hasOverlay() const { return air_->hasClean() || !shot_->veils.empty() || bodies_.coloured; }
    void overlay8(int x, int y, const media::Ray8& ray, F8 depth, F8 tint[3], F8 times[3], F8 plus[3]) const;
    void keepVeilWisps();
    /// Overlays of eight pixels' clusters: [lane][cluster].
    void overlaysAt(int x, int y, const media::Ray8& ray, Overlay (*out)[clusterCount]) const;
    /// One pixel as seen: what lies behind the air, times transmittance; the transmittance; and what becomes of the
    /// air's own light.
    struct Seen {
        Vec3 behind{0.f}, transmittance{0.f}, airTimes{1.f}, veils{0.f};
    };
    /// `ratios`: of the pixel's row; `lamps`: this pixel's lane of lampsThrough(), or null.
    Seen behindAir(std::size_t pixel, int y, const Through& through, const Overlay* overlays, const RatioRow& ratios,
                   const float* lamps = nullptr, int lead = -1, int source = allSources) const;
    /// Calls use(x, pixel, seen, ratios of the row) for the pixels of a row after the last march.
    template <class Use> void overSeenRow(int y, const Use& use, int source = allSources) const;
    Seen behindPlainAir(std::size_t pixel, int y, const Through& through, const float* lamps, int lead, int source,
                        const RatioRow& ratios) const;
    Vec3 plateAt(std::size_t pixel) const { return plateColour_.of(pixel); }
    /// Whether the plate is all that a pixel shows.
    bool isPlate(std::size_t pixel) const;
    void fitPlate();
    /// One more look at the bodies (air_kernel.h) for eight rays, into their means.
    void lookAtBodies(const media::Ray8& ray, F8 end, F8 jitter, float looksBefore, float* means) const;
    /// Gives the march their means; `room` must outlive it.
    void putBodies(const float* means, F8 room[mostSlabs * bodyPlanes], AirRays8& rays) const;
    /// Multiplies `tint` with what bodies make of the colour of light from behind them.
    void tintByBodies(int x, int y, F8 depth, F8 tint[3]) const;
    /// Floats kept for eight rays.
    std::size_t bodyFloats() const { return static_cast<std::size_t>(bodies_.slabs * bodyPlanes * lanes); }
    /// Of a new shot.
    void makeBodies();
    /// Radiance of one cluster before the air in front of it, from one Source or all.
    Vec3 behindSurface(std::size_t pixel, int y, int cluster, int source) const;
    bool buildQuick(const std::atomic<bool>& stop);
    bool marchQuick(const std::atomic<bool>& stop, int onlyMedium, std::vector<std::uint16_t>& profile);

    std::shared_ptr<const shot::Shot> shot_;
    std::unique_ptr<AirModel> air_;
    const WaterPart only_;
    std::unique_ptr<SurfaceSampler> sampler_;
    Vec3 sunLight_{0.f}; ///< irradiance of the sun
    int width_, height_;
    geometry::View view_;
    std::size_t lampCount_;
    RainPicture rain_;    ///< over it, as sparks are
    Shimmer shimmer_;     ///< bends whatever picture is made of it; layers() leave it out
    SparkPicture sparks_; ///< over whatever picture is made of it; layers() leave it out

    // Traced
    std::vector<Cluster> clusters_;       ///< [pixel][3]
    std::vector<std::size_t> lampBase_;   ///< [group + 1] first slot of its lamps
    std::vector<std::uint16_t> lampList_; ///< [slot] which lamp; rising within a group
    std::vector<std::uint16_t> everyLamp_;
    Planes<Vec3> lampLight_; ///< slots by clusters: sums
    static constexpr std::size_t sheetPlanes = 14;
    /// Cluster 0 per sample: t, emitted, sun, sky, open, facing; halves, as quick pictures are as fast as memory is.
    Planes<std::uint16_t> sheet_;
    /// Lamps' light on cluster 0 in one row, for quick pictures: those of a group's lamps that light any of its eight
    /// pixels.
    struct LampSheet {
        std::vector<std::uint32_t> base;   ///< [group of the row + 1] first entry
        std::vector<std::uint16_t> which;  ///< [entry] place in lampsOf(group)
        std::vector<std::uint16_t> halves; ///< [entry][3][8] per sample and unit of intensity, times lampSheetScale
    };
    static constexpr float lampSheetScale = 256.f; ///< keeps far lamps in the range of halves
    std::vector<LampSheet> lampSheet_;             ///< [row]
    std::vector<MirrorSheet> mirrorSheet_; ///< [pixel], written where something is mirrored; empty without mirrors
    std::vector<std::uint8_t> plain_;      ///< [pixel] 1: cluster 0 and mirrors are all there is
    std::vector<float> samples_;           ///< [pixel]
    std::vector<std::uint8_t> blurred_;    ///< [pixel] seen through all of the lens; empty without one
    std::vector<Coverage> coverage_;       ///< [pixel] empty in the first passes
    /// [pixel] looks a pass, and whether all of them look at light (shadeAll); empty until a march has shown where
    /// noise is seen.
    std::vector<std::uint8_t> looks_;
    static constexpr std::uint8_t shadeAll = 0x80;
    std::vector<char> lampMet_;                      ///< [pixel] whether a look met a lamp; empty without lamps
    std::vector<std::uint8_t> pieces_;               ///< [group] how many pieces its rays are cut into
    std::vector<float> span_;                        ///< [pixel] how far the air is marched
    std::vector<std::vector<Mirror>> mirrors_;       ///< [row][…]: one task owns a row, so rows grow without locks
    std::vector<std::vector<Vec3>> mirrorLampLight_; ///< [row][mirror][2][lamp], sums
    std::vector<std::int32_t> mirrorOf_;             ///< [pixel] → place in its row's mirrors, or −1
    int tracedPasses_ = 0, surfacePasses_ = 0, draw_ = 0;
    bool looksEvenly_ = false;
    int stage_ = 0;
    std::vector<char> rowDone_;

    // Seen from the air, by groups of eight pixels of a row
    Planes<std::uint8_t> sunLit_; ///< by segment
    Planes<std::uint8_t> skyLit_; ///< by three segments
    /// Each of a direction of the sun's own; groups of pixels take turns.
    static constexpr int sunMaps = 2;
    std::array<std::unique_ptr<SunMap>, sunMaps> sunMap_;
    int sunMapPass_ = -1;                            ///< that it stands for
    Planes<std::uint8_t> beamLit_;                   ///< slots by pixels: its eight samples
    Planes<std::uint16_t> airNoise_;                 ///< by segment, noisy medium, and 2 (NoiseRecord)
    Planes<std::uint16_t> surfaceNoise_;             ///< by cluster and noisy medium: way from surfaces to the sun
    std::vector<MirrorsSeen> mirrorsSeen_;           ///< [row]
    std::vector<std::uint16_t> rowLooks_, rowNoise_; ///< traces and noise samples in each row
    std::vector<char> rowSurfaceNoise_;              ///< surfaceNoise_ can be read there

    // Lit
    struct Bodies {
        BodyList list;
        int slabs = 0;         ///< of all
        bool coloured = false; ///< extinction differs by channel in some
        bool onAir = false;    ///< some look other in other air
        bool own = false;      ///< some have light of their own, or of lamps
    } bodies_;
    Planes<float> bodySeen_; ///< by slab and bodyPlanes: means; the distance weighted by how much was met
    std::vector<std::shared_ptr<LampGlow>> lampGlows_;  ///< [lamp] in air that glows; none before light()
    std::vector<std::shared_ptr<LampGlow>> knownGlows_; ///< what these begin with
    bool anyGlow_ = false;                              ///< of them
    std::vector<std::uint16_t> rowBodies_;              ///< looks in it
    Colours plateColour_;                               ///< [pixel] at this frame's size
    std::vector<float> plateDepth_;                     ///< [pixel] the same; below 0: the plate does not reach here

    mutable std::mutex meterMutex_;
    Meter meter_;
    bool lit_ = false;
    Colours airSun_, airSky_;             ///< [pixel]
    Colours airOwn_;                      ///< [pixel] what bodies give off and scatter of lamps; empty without such
    Colours airLamp_;                     ///< [slot][8], sums over the marches since setAir()
    Colours airGlow_;                     ///< of them what was turned before
    bool fed_ = false;                    ///< photons of the march that is under way are in
    std::vector<std::uint16_t> rowBeams_; ///< marches in airLamp_
    std::vector<Through> through_;

    // Followed
    bool followsPaths_ = true;
    std::shared_ptr<PathIntegrator> paths_; ///< of the present shot; made when it is first needed
    std::uint32_t pathLooks_ = 0;           ///< of it
    bool pathsWait_ = true;                 ///< the first march of a state shows what was known before it
    int pathMarches_ = 0;                   ///< after which they were taken
    bool marchedAnew_ = false;              ///< since they were taken last
    std::size_t looksTimes_ = 1;
    PathRatios ratios_;

    // Quarter-size air
    int quickWidth_, quickHeight_;
    bool quickBuilt_ = false, quickNoiseKept_ = false, quickBodiesKept_ = false;
    std::vector<QuickCell> quickCells_;
    Planes<std::uint8_t> quickSunLit_, quickSkyLit_; ///< by quick segment, by three of them
    Planes<std::uint8_t> quickBeams_;                ///< lamps by cells: eight samples
    Planes<std::uint16_t> quickNoise_;               ///< as airNoise_
    Planes<float> quickBodies_;                      ///< as bodySeen_
    // What does not depend on densities and is looked up once for many edits
    std::vector<std::shared_ptr<const void>> keptOf_; ///< what it was looked up in
    int surfaceKeptAt_ = -1;                          ///< passes of surfaces it stands for
    Planes<float> quickKept_, surfaceKept_;           ///< by quick segment or cluster, and what is kept
    struct Wisps {
        float angle = 0.f, size = 0.f;
        std::uint32_t seed = 0;
        std::vector<float> noise; ///< [group][8]
    };
    std::vector<Wisps> veilWisps_;            ///< [veil], empty where the horizon is even
    std::vector<std::uint16_t> quickProfile_; ///< [cell][boundary, the eye first][4] halves
};
} // namespace hygros::render
