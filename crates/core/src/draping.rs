//! Where the dart goes: what each dart would take on this body, and how the cloth is smoothed so that the excess walks there, step by step
//! with pictures made from the block that her figures draft.
//!
//! The order of smoothing, distances of slashes and depths of pinches are common practice, no source.

use kurbo::{BezPath, Point, Shape, Vec2};
use serde::{Deserialize, Serialize};

use crate::alter::{Amounts, alteration, apply};
use crate::body::Body;
use crate::draft::{Direct, DirectEase, DraftError, draft_direct};
use crate::drape::Draped;
use crate::geometry::{Curve, Pt, ViewBox, closed_path, quarter_turn, short_svg};
use crate::pattern::{DartPlace, GarmentPart, Pattern, Piece, Seam, WAIST_DART_LIMIT, capped_outline};
use crate::{Natural, Shown, Style};

/// Where the excess of a piece goes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum DartGoes {
    /// To the waist.
    Waist,
    /// To the side seam, level with the bust.
    Side,
    /// Low on the side seam.
    LowSide,
    /// To the shoulder.
    Shoulder,
    /// To the armhole.
    Armhole,
    /// Half to the shoulder and half to the waist, for a seam over the bust point.
    Princess,
    /// To the waist, gathered.
    Gathers,
    /// To the waist, folded and left open.
    Pleat,
}

impl DartGoes {
    /// Places of a front.
    const FRONT: [Self; 8] = [
        Self::Waist,
        Self::Side,
        Self::LowSide,
        Self::Shoulder,
        Self::Armhole,
        Self::Princess,
        Self::Gathers,
        Self::Pleat,
    ];
    /// Places of what lies over a back's blade.
    const BACK: [Self; 2] = [Self::Shoulder, Self::Armhole];

    /// The places there are for a piece.
    pub fn of(piece: Draped) -> &'static [Self] {
        match piece {
            Draped::Front => &Self::FRONT,
            Draped::Back => &Self::BACK,
        }
    }

    const fn name(self) -> &'static str {
        match self {
            Self::Waist => "the waist",
            Self::Side => "the side",
            Self::LowSide => "low on the side",
            Self::Shoulder => "the shoulder",
            Self::Armhole => "the armhole",
            Self::Princess => "a princess line",
            Self::Gathers => "gathers at the waist",
            Self::Pleat => "a pleat at the waist",
        }
    }

    /// The seams that are smoothed, in their order, so that the excess walks where it is wanted.
    const fn smoothed(self, piece: Draped) -> &'static [Smoothed] {
        use Smoothed::{Armhole, Centre, Neck, Shoulder, Side, Waist};
        match (piece, self) {
            (Draped::Front, Self::Waist | Self::Gathers | Self::Pleat) => &[Neck, Shoulder, Armhole, Side],
            (Draped::Front, Self::Side) => &[Centre, Waist, Neck, Shoulder, Armhole],
            (Draped::Front, Self::LowSide) => &[Centre, Waist, Neck, Shoulder, Armhole, Side],
            (Draped::Front, Self::Shoulder) => &[Centre, Waist, Side, Armhole, Neck],
            (Draped::Front, Self::Armhole) => &[Centre, Waist, Side, Neck, Shoulder],
            (Draped::Front, Self::Princess) => &[Neck, Centre, Side, Armhole],
            (Draped::Back, Self::Armhole) => &[Neck, Shoulder, Side, Waist],
            (Draped::Back, _) => &[Armhole, Neck, Side, Waist],
        }
    }
}

/// A stretch of the outline that is smoothed flat.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Smoothed {
    Neck,
    Shoulder,
    Armhole,
    Side,
    Waist,
    Centre,
}

impl Smoothed {
    const fn seams(self) -> &'static [Seam] {
        match self {
            Self::Neck => &[Seam::Neckline],
            Self::Shoulder => &[Seam::Shoulder],
            Self::Armhole => &[Seam::Armhole],
            Self::Side => &[Seam::Side],
            Self::Waist => &[Seam::Waist],
            Self::Centre => &[Seam::CentreFront, Seam::CentreBack],
        }
    }

    const fn words(self, piece: Draped) -> &'static str {
        match self {
            Self::Armhole if matches!(piece, Draped::Back) => {
                "Smooth across the blades to the armhole, the level line level, and down to the underarm; slash its hollow, and pin the underarm"
            }
            Self::Neck => {
                "Smooth up to the neck, without a pull at the centre; slash the edge towards it, and pin the neck side"
            }
            Self::Shoulder => "Smooth along the shoulder from the neck out, and pin the shoulder point",
            Self::Armhole => {
                "Smooth over the front of the shoulder into the armhole and down to the underarm; slash its hollow, and pin the underarm"
            }
            Self::Side => {
                "Smooth down the side from the underarm without stretching it, and pin the side of the waist"
            }
            Self::Waist => "Smooth along the waist to the side; slash the edge below it, and pin as you go",
            Self::Centre => {
                "Smooth straight down the centre, the grain plumb, and pin the waist at the centre"
            }
        }
    }
}

/// A dart, and what it takes.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GuideDart {
    /// Where its mouth is.
    pub place: DartPlace,
    /// The trade's word.
    pub name: &'static str,
    /// Its mouth at the seam.
    pub takes: Shown,
}

/// A way to take in the excess.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GuideWay {
    /// Where the excess goes.
    pub goes: DartGoes,
    /// In words.
    pub name: &'static str,
    /// Part of it stays at the waist.
    pub two: bool,
    /// Its darts, and what each takes.
    pub darts: Vec<GuideDart>,
    /// Why it is better not, or is not possible.
    pub doubt: Option<String>,
}

/// A line that a place is named by.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GuideName {
    /// The word.
    pub name: &'static str,
    /// Where it stands.
    pub at: Pt,
}

/// What a step looks like: paths in millimetres of the piece.
#[derive(Clone, Debug, Default, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GuidePicture {
    /// Seams that are settled.
    pub settled: Vec<String>,
    /// What is smoothed or pinned now.
    pub now: Vec<String>,
    /// Ways of the hand, each from where it begins to where it comes to.
    pub smooth: Vec<[Pt; 2]>,
    /// Pins that are set by now.
    pub pins: Vec<Pt>,
    /// Slashes, from the cloth's edge towards the line.
    pub slashes: Vec<[Pt; 2]>,
    /// Names of what is worked on.
    pub names: Vec<GuideName>,
}

/// One step.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GuideStep {
    /// What is done.
    pub says: String,
    /// What it looks like.
    pub picture: GuidePicture,
}

/// How a piece is draped on this body.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrapingGuide {
    /// Which piece.
    pub piece: Draped,
    /// The ways there are; the first is proposed.
    pub ways: Vec<GuideWay>,
    /// The way that is shown: its place, and whether there are two darts.
    pub goes: DartGoes,
    /// Part of it stays at the waist.
    pub two: bool,
    /// The piece as it will lie: thin under every picture.
    pub outline: String,
    /// What the pictures fill.
    pub bounds: ViewBox,
    /// Step by step.
    pub steps: Vec<GuideStep>,
}

/// From slash to slash along a curve.
const BETWEEN_SLASHES: f64 = 22.0;
/// A slash ends so far short of the line: never past it.
const SHORT_OF_LINE: f64 = 6.0;
/// No slash is nearer to a dart, or to the end of its seam.
const FROM_DART: f64 = 25.0;
/// How far the cloth reaches beyond the line.
const BEYOND: f64 = 30.0;
/// A dart at the waist keeps so much where the rest goes elsewhere.
const WAIST_KEEPS: f64 = 38.0;
/// What is pinched at the side of the waist, and in the front armhole, for ease.
const PINCHES: [(Natural, &str); 2] = [
    (Natural::new(0.125, 3.0), "at the side of the waist, held straight up and down"),
    (Natural::new(0.25, 6.0), "in the front armhole level with the bust, if it is to be worn with a sleeve"),
];

/// How a piece is draped on this body, where its excess is to go there; without a wish as it is proposed.
///
/// # Errors
///
/// [`DraftError`]: readings are missing, or no body has them.
pub fn draping_guide(
    body: &Body,
    piece: Draped,
    wish: Option<(DartGoes, bool)>,
    style: Style,
) -> Result<DrapingGuide, DraftError> {
    let drafted = |changed: Direct| {
        let direct = Direct { ease: DirectEase::NONE, ..changed };
        draft_direct(body, &direct, style).map(|draft| draft.pattern)
    };
    let one = drafted(Direct { one_dart: true, ..Direct::default() })?;
    let pinched = || drafted(Direct { one_dart: true, back_pinch: true, ..Direct::default() });
    let mut ways = Vec::new();
    for &goes in DartGoes::of(piece) {
        for two in [false, true] {
            if two && !may_be_two(piece, goes) {
                continue;
            }
            let made = match (piece, goes) {
                (Draped::Back, DartGoes::Armhole) => pinched().map_err(|error| error.to_string()),
                (Draped::Back, _) => Ok(one.clone()),
                (Draped::Front, _) => made_front(&one, goes, two, style),
            };
            ways.push((way(piece, goes, two, &made, style), made));
        }
    }
    // What has no doubt comes first, in the order of the trade: a doubtful dart is proposed as the two it is split into.
    let order = |way: &GuideWay| (way.doubt.is_some(), usually(way));
    ways.sort_by_key(|(way, _)| order(way));
    let is_wished = |way: &GuideWay| wish.is_none_or(|(goes, two)| way.goes == goes && way.two == two);
    let shown = ways
        .iter()
        .find_map(|(way, made)| made.as_ref().ok().filter(|_| is_wished(way)).map(|made| (way.clone(), made)))
        .or_else(|| ways.iter().find_map(|(way, made)| Some((way.clone(), made.as_ref().ok()?))));
    let (chosen, pattern) = match shown {
        Some((way, made)) => (way, made.clone()),
        // The draft itself can always be draped.
        None => (way(piece, DartGoes::Waist, false, &Ok(one.clone()), style), one),
    };
    let drawn = of_pattern(&pattern, piece);
    let (outline, bounds, steps) = drawn.map_or_else(
        || (String::new(), kurbo::Rect::ZERO.into(), Vec::new()),
        |drawn| {
            // On the form the cloth of a dart is there still.
            let path = whole_outline(drawn);
            let bounds = path.bounding_box().inflate(BEYOND + 10.0, BEYOND + 10.0);
            (short_svg(&path), bounds.into(), steps(drawn, piece, &chosen, style))
        },
    );
    Ok(DrapingGuide {
        piece,
        goes: chosen.goes,
        two: chosen.two,
        ways: ways.into_iter().map(|(way, _)| way).collect(),
        outline,
        bounds,
        steps,
    })
}

/// The outline as it lies before a dart is pinned: from one end of a mouth over its cap to the other.
fn whole_outline(piece: &Piece) -> BezPath {
    let capped = capped_outline(piece);
    closed_path(capped.iter().map(|(edge, _)| &edge.curve))
}

fn drawn(curve: &Curve) -> String {
    short_svg(&curve.to_path())
}

/// Where part of the excess can stay at the waist.
fn may_be_two(piece: Draped, goes: DartGoes) -> bool {
    use DartGoes::{Armhole, LowSide, Shoulder, Side};
    piece == Draped::Front && matches!(goes, Side | LowSide | Shoulder | Armhole)
}

/// In which order ways are proposed: one dart at the waist, two with the second at the side, then the others.
fn usually(way: &GuideWay) -> usize {
    match (way.goes, way.two) {
        (DartGoes::Waist, false) => 0,
        (DartGoes::Side, true) => 1,
        (goes, two) => {
            2 + 2 * DartGoes::FRONT.iter().position(|each| *each == goes).unwrap_or_default()
                + usize::from(!two)
        }
    }
}

fn of_pattern(pattern: &Pattern, piece: Draped) -> Option<&Piece> {
    let part = match piece {
        Draped::Front => GarmentPart::BodiceFront,
        Draped::Back => GarmentPart::BodiceBack,
    };
    pattern.pieces.iter().find(|each| each.kind.part() == part && !each.kind.is_facing())
}

/// The front of one dart with its excess walked there.
fn made_front(one: &Pattern, goes: DartGoes, two: bool, style: Style) -> Result<Pattern, String> {
    let mouth = of_pattern(one, Draped::Front).and_then(|front| front.mouth(DartPlace::Waist));
    let mouth = mouth.map_or(0.0, |(first, second)| first.distance(second));
    let share = match (goes, two) {
        (DartGoes::Princess, _) => 0.5,
        (_, true) if mouth <= WAIST_KEEPS => return Err("one dart takes all of it".to_owned()),
        (_, true) => 1.0 - WAIST_KEEPS / mouth,
        _ => 1.0,
    };
    let asked = |code: &str, amounts: &Amounts| {
        let known =
            alteration(code).ok_or_else(|| format!("there is no alteration \u{201c}{code}\u{201d}"))?;
        apply(known, one, amounts, None, style).map(|made| made.pattern).map_err(|error| error.to_string())
    };
    let moved = |to: &str| asked("move_dart", &Amounts::of(share).by("from", "waist").by("to", to));
    match goes {
        DartGoes::Waist => Ok(one.clone()),
        DartGoes::Side => moved("side"),
        DartGoes::LowSide => moved("french"),
        DartGoes::Shoulder | DartGoes::Princess => moved("shoulder"),
        DartGoes::Armhole => moved("armhole"),
        DartGoes::Gathers => asked("gather_dart", &Amounts::of(1.0)),
        DartGoes::Pleat => asked("pleat", &Amounts::of(50.0)),
    }
}

fn way(piece: Draped, goes: DartGoes, two: bool, made: &Result<Pattern, String>, style: Style) -> GuideWay {
    let drawn = made.as_ref().ok().and_then(|pattern| of_pattern(pattern, piece));
    let darts: Vec<GuideDart> = { drawn.into_iter() }
        .flat_map(|drawn| drawn.darts.iter().filter_map(|dart| Some((dart.place, drawn.mouth(dart.place)?))))
        .map(|(place, (first, second))| GuideDart {
            place,
            name: place.name(),
            takes: style.show(first.distance(second)),
        })
        .collect();
    let wide = darts.iter().find(|dart| {
        dart.place == DartPlace::Waist && dart.takes.mm > WAIST_DART_LIMIT && goes != DartGoes::Gathers
    });
    let doubt = match (made, wide) {
        (Err(why), _) => Some(why.clone()),
        (Ok(_), Some(dart)) => Some(format!(
            "a waist dart of {} is wider than {}: it stands off at its point, two darts share it better",
            style.with_unit(dart.takes.mm),
            style.with_unit(WAIST_DART_LIMIT)
        )),
        _ => None,
    };
    GuideWay { goes, name: goes.name(), two, darts, doubt }
}

/// What is made of one stretch as it is worked on.
struct Bench<'a> {
    which: Draped,
    piece: &'a Piece,
    outline: BezPath,
    settled: Vec<String>,
    pins: Vec<Pt>,
}

impl Bench<'_> {
    fn curves(&self, stretch: Smoothed) -> Vec<&Curve> {
        stretch.seams().iter().flat_map(|seam| self.piece.edges_of(*seam)).map(|edge| &edge.curve).collect()
    }

    /// Where the hand begins: over the bust point, or over the blade.
    fn from(&self) -> Point {
        let bust = self.piece.bust_pivot();
        let dart = self.piece.darts.first().map(|dart| dart.pivot);
        bust.or(dart).unwrap_or_else(|| self.outline.bounding_box().center())
    }

    /// Slashes to a curve from the cloth's edge: none past the line, none near a dart or a corner.
    fn slashes(&self, stretch: Smoothed) -> Vec<[Pt; 2]> {
        if !matches!(stretch, Smoothed::Neck | Smoothed::Armhole | Smoothed::Waist) {
            return Vec::new();
        }
        let mouths: Vec<Point> = { self.piece.darts.iter() }
            .filter_map(|dart| self.piece.mouth(dart.place))
            .flat_map(|(first, second)| [first, second])
            .collect();
        let mut found = Vec::new();
        for curve in self.curves(stretch) {
            let room = curve.length() - 2.0 * FROM_DART;
            let count = (room / BETWEEN_SLASHES).floor();
            if count < 0.0 {
                continue;
            }
            let places = (0..=count as u32)
                .map(|step| FROM_DART + room * if count > 0.0 { f64::from(step) / count } else { 0.5 });
            for (at, along) in curve.places(places) {
                let square = quarter_turn(along);
                let out = if self.outline.contains(at + square) { -square } else { square };
                let slash = [at + out * BEYOND, at + out * SHORT_OF_LINE];
                let is_clear = slash.iter().all(|end| !self.outline.contains(*end))
                    && mouths.iter().all(|mouth| mouth.distance(slash[1]) >= FROM_DART);
                if is_clear {
                    found.push(slash.map(Pt::from));
                }
            }
        }
        found
    }

    /// The end of a stretch that lies farthest from what is pinned already.
    fn pin(&mut self, stretch: Smoothed) {
        let ends: Vec<Point> =
            self.curves(stretch).into_iter().flat_map(|curve| [curve.start(), curve.end()]).collect();
        for end in ends {
            let is_new = self.pins.iter().all(|pin| Point::new(pin.x, pin.y).distance(end) > 1.0);
            let of_dart = self.piece.darts.iter().filter_map(|dart| self.piece.mouth(dart.place));
            let is_mouth = of_dart.into_iter().any(|(first, second)| end == first || end == second);
            if is_new && !is_mouth {
                self.pins.push(end.into());
            }
        }
    }

    fn picture(&self) -> GuidePicture {
        GuidePicture { settled: self.settled.clone(), pins: self.pins.clone(), ..GuidePicture::default() }
    }

    fn smooth(&mut self, stretch: Smoothed, last: bool, way: &GuideWay) -> GuideStep {
        let begins = self.from();
        let now: Vec<String> = self.curves(stretch).iter().map(|curve| drawn(curve)).collect();
        let ways = self.curves(stretch).into_iter().map(|curve| {
            let to = curve.point_at(curve.length() / 2.0);
            // The hand stays on the cloth: from a little beside the point to a little short of the line.
            let way: Vec2 = to - begins;
            [begins + way * 0.25, begins + way * 0.9].map(Pt::from)
        });
        let picture = GuidePicture {
            now: now.clone(),
            smooth: ways.collect(),
            slashes: self.slashes(stretch),
            ..self.picture()
        };
        self.settled.extend(now);
        self.pin(stretch);
        let picture = GuidePicture { pins: self.pins.clone(), ..picture };
        let walks = if last { format!(": the excess has walked to {}", way.name) } else { String::new() };
        GuideStep { says: format!("{}{walks}.", stretch.words(self.which)), picture }
    }
}

fn steps(piece: &Piece, which: Draped, way: &GuideWay, style: Style) -> Vec<GuideStep> {
    let mut bench =
        Bench { which, piece, outline: whole_outline(piece), settled: Vec::new(), pins: Vec::new() };
    let mut steps = vec![hung(&mut bench, which)];
    let order = way.goes.smoothed(which);
    for (place, stretch) in order.iter().enumerate() {
        let step = bench.smooth(*stretch, place + 1 == order.len(), way);
        steps.push(step);
    }
    steps.extend(pinned_darts(&bench, way, style));
    if which == Draped::Front {
        steps.push(pinches(&bench, style));
    }
    steps.push(GuideStep {
        says: "Mark it in one walk round: crosses at every corner, dots along every line, both lines of every dart. Then it comes off."
            .to_owned(),
        picture: GuidePicture {
            settled: piece.edges.iter().map(|edge| drawn(&edge.curve)).collect(),
            ..bench.picture()
        },
    });
    steps
}

fn hung(bench: &mut Bench<'_>, which: Draped) -> GuideStep {
    let centre = bench.curves(Smoothed::Centre);
    let now: Vec<String> = centre.iter().map(|curve| drawn(curve)).collect();
    let ends: Vec<Point> = centre.iter().flat_map(|curve| [curve.start(), curve.end()]).collect();
    let top = ends.iter().copied().min_by(|a, b| a.y.total_cmp(&b.y));
    let apex = bench.from();
    bench.pins.extend(top.into_iter().chain([apex]).map(Pt::from));
    let (says, name) = match which {
        Draped::Front => (
            "Lay the ruled grain on the centre of the form and the ruled cross on the bust point: pin the neck, then the bust point, the \
             level line level all the way.",
            "bust point",
        ),
        Draped::Back => (
            "Lay the ruled grain on the centre of the back and the ruled level on the blades: pin the nape and the blade, the level line level \
             all the way.",
            "blade",
        ),
    };
    let names = vec![GuideName { name, at: apex.into() }];
    bench.settled.extend(now.clone());
    GuideStep { says: says.to_owned(), picture: GuidePicture { now, names, ..bench.picture() } }
}

fn pinned_darts(bench: &Bench<'_>, way: &GuideWay, style: Style) -> Option<GuideStep> {
    let legs: Vec<String> = { bench.piece.darts.iter() }
        .filter_map(|dart| {
            let (first, second) = bench.piece.mouth(dart.place)?;
            Some(drawn(&Curve::polyline(&[first, dart.point, second])?))
        })
        .collect();
    let takes: Vec<String> = { way.darts.iter() }
        .map(|dart| format!("the {} takes {}", dart.name, style.in_words(&dart.takes)))
        .collect();
    let how = match way.goes {
        DartGoes::Gathers => {
            "Leave the excess open between two pins at the waist and draw it in along a thread: nothing is pinned to a point".to_owned()
        }
        DartGoes::Pleat => format!("Fold the excess at the waist and let it fall open above: {}", takes.join(", ")),
        DartGoes::Princess => format!(
            "Pin both darts towards the bust point, in one line over it, as two seams will be sewn: {}",
            takes.join(", ")
        ),
        _ if takes.is_empty() => return None,
        _ => format!(
            "Pinch the excess into its dart, pin it flat on the form with the fold towards the centre or down, and stop short of the point: {}",
            takes.join(", ")
        ),
    };
    let names = { bench.piece.darts.iter() }.filter_map(|dart| {
        let (first, second) = bench.piece.mouth(dart.place)?;
        Some(GuideName { name: dart.place.name(), at: first.midpoint(second).into() })
    });
    let picture = GuidePicture { now: legs, names: names.collect(), ..bench.picture() };
    Some(GuideStep { says: format!("{how}."), picture })
}

fn pinches(bench: &Bench<'_>, style: Style) -> GuideStep {
    let waist =
        bench.curves(Smoothed::Side).iter().map(|curve| curve.end()).max_by(|a, b| a.y.total_cmp(&b.y));
    let armhole = bench.curves(Smoothed::Armhole).first().map(|curve| curve.point_at(curve.length() * 0.6));
    let pins: Vec<Pt> = waist.into_iter().chain(armhole).map(Pt::from).collect();
    let pinch =
        |(deep, place): (Natural, &str)| format!("{} {place}", style.with_unit(deep.in_unit(style.unit())));
    GuideStep {
        says: format!(
            "Pinch ease where it will be wanted: {}. The rest of the ease is drawn in when it is on paper.",
            PINCHES.map(pinch).join("; ")
        ),
        picture: GuidePicture {
            names: pins.iter().map(|at| GuideName { name: "pinch", at: *at }).collect(),
            pins,
            settled: bench.settled.clone(),
            ..GuidePicture::default()
        },
    }
}
