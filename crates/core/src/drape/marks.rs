//! The marks of a draped toile or a paper pattern: crosses that are one click each, and runs of dots clicked along a line.

use std::collections::BTreeMap;

use kurbo::Point;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

use crate::geometry::is_on_the_table;
use crate::pattern::DartPlace;

/// A mark of one click: a cross on the cloth, or an L where two lines meet.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Cross {
    /// The neck at the centre.
    CentreTop,
    /// Where the neck meets the shoulder.
    NeckSide,
    /// Where the shoulder meets the armhole.
    Tip,
    /// On the armhole ridge, level with the arm plate's screw.
    Across,
    /// Under the arm plate, at the side seam.
    Underarm,
    /// The waist at the side.
    SideWaist,
    /// The waist at the centre.
    CentreWaist,
    /// The apex of the bust: the pivot of every dart of a front.
    BustPoint,
    /// The mouth of the waist dart, nearer to the centre.
    WaistDartIn,
    /// The mouth of the waist dart, nearer to the side.
    WaistDartOut,
    /// Where the waist dart runs out.
    WaistDartPoint,
    /// The mouth of the shoulder dart, nearer to the neck.
    ShoulderDartIn,
    /// The mouth of the shoulder dart, nearer to the tip.
    ShoulderDartOut,
    /// Where the shoulder dart runs out.
    ShoulderDartPoint,
    /// The upper end of the side dart's mouth.
    SideDartUpper,
    /// The lower end of the side dart's mouth.
    SideDartLower,
    /// Where the side dart runs out.
    SideDartPoint,
}

impl Cross {
    /// Every mark, in the order in which they are clicked: round the piece from the top of its centre.
    pub const ALL: [Self; 17] = [
        Self::CentreTop,
        Self::NeckSide,
        Self::ShoulderDartIn,
        Self::ShoulderDartOut,
        Self::ShoulderDartPoint,
        Self::Tip,
        Self::Across,
        Self::Underarm,
        Self::SideDartUpper,
        Self::SideDartLower,
        Self::SideDartPoint,
        Self::SideWaist,
        Self::WaistDartOut,
        Self::WaistDartIn,
        Self::WaistDartPoint,
        Self::CentreWaist,
        Self::BustPoint,
    ];

    /// What every piece has.
    pub const OF_EVERY_PIECE: [Self; 7] = [
        Self::CentreTop,
        Self::NeckSide,
        Self::Tip,
        Self::Across,
        Self::Underarm,
        Self::SideWaist,
        Self::CentreWaist,
    ];

    /// As it stands in a file.
    pub const fn code(self) -> &'static str {
        match self {
            Self::CentreTop => "centre_top",
            Self::NeckSide => "neck_side",
            Self::Tip => "tip",
            Self::Across => "across",
            Self::Underarm => "underarm",
            Self::SideWaist => "side_waist",
            Self::CentreWaist => "centre_waist",
            Self::BustPoint => "bust_point",
            Self::WaistDartIn => "waist_dart_in",
            Self::WaistDartOut => "waist_dart_out",
            Self::WaistDartPoint => "waist_dart_point",
            Self::ShoulderDartIn => "shoulder_dart_in",
            Self::ShoulderDartOut => "shoulder_dart_out",
            Self::ShoulderDartPoint => "shoulder_dart_point",
            Self::SideDartUpper => "side_dart_upper",
            Self::SideDartLower => "side_dart_lower",
            Self::SideDartPoint => "side_dart_point",
        }
    }

    /// What it is called at the table.
    pub const fn name(self) -> &'static str {
        match self {
            Self::CentreTop => "top of the centre",
            Self::NeckSide => "neck side",
            Self::Tip => "shoulder tip",
            Self::Across => "across, at the armhole",
            Self::Underarm => "underarm",
            Self::SideWaist => "waist at the side",
            Self::CentreWaist => "waist at the centre",
            Self::BustPoint => "bust point",
            Self::WaistDartIn => "waist dart, towards the centre",
            Self::WaistDartOut => "waist dart, towards the side",
            Self::WaistDartPoint => "point of the waist dart",
            Self::ShoulderDartIn => "shoulder dart, towards the neck",
            Self::ShoulderDartOut => "shoulder dart, towards the tip",
            Self::ShoulderDartPoint => "point of the shoulder dart",
            Self::SideDartUpper => "side dart, upper end",
            Self::SideDartLower => "side dart, lower end",
            Self::SideDartPoint => "point of the side dart",
        }
    }
}

/// Dots clicked in order along a line.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Run {
    /// On the ruled lengthwise thread, from the top.
    CentreDots,
    /// On the ruled crosswise thread, from the centre.
    LevelDots,
    /// From the centre to the neck side.
    NecklineDots,
    /// From the neck side to the tip, or to a dart.
    ShoulderDots,
    /// From a dart to the tip.
    ShoulderOuterDots,
    /// From the tip to across.
    ArmholeDots,
    /// From across to the underarm: of a paper pattern.
    ArmholeLowerDots,
    /// From the underarm to the waist, or to a dart.
    SideDots,
    /// From a side dart to the waist.
    SideLowerDots,
    /// Between the centre and a dart, or the side; clicked from either end.
    WaistDots,
    /// Between a dart and the side; clicked from either end.
    WaistOuterDots,
    /// On a leg of the waist dart, mouth to point.
    WaistDartInLeg,
    /// On its other leg.
    WaistDartOutLeg,
    /// On a leg of the shoulder dart, mouth to point.
    ShoulderDartInLeg,
    /// On its other leg.
    ShoulderDartOutLeg,
    /// On a leg of the side dart, mouth to point.
    SideDartUpperLeg,
    /// On its other leg.
    SideDartLowerLeg,
    /// Of a slashed back: along the edge above the slash, from the centre outwards.
    SlashUpperDots,
    /// Along the edge below it, at the same places.
    SlashLowerDots,
    /// Along the centre back as it was drawn on her, from the slash up to the nape.
    DrawnCentreDots,
}

impl Run {
    /// Every run, in the order in which they are clicked.
    pub const ALL: [Self; 20] = [
        Self::CentreDots,
        Self::LevelDots,
        Self::NecklineDots,
        Self::ShoulderDots,
        Self::ShoulderOuterDots,
        Self::ArmholeDots,
        Self::ArmholeLowerDots,
        Self::SideDots,
        Self::SideLowerDots,
        Self::WaistOuterDots,
        Self::WaistDots,
        Self::WaistDartInLeg,
        Self::WaistDartOutLeg,
        Self::ShoulderDartInLeg,
        Self::ShoulderDartOutLeg,
        Self::SideDartUpperLeg,
        Self::SideDartLowerLeg,
        Self::SlashUpperDots,
        Self::SlashLowerDots,
        Self::DrawnCentreDots,
    ];

    /// As it stands in a file.
    pub const fn code(self) -> &'static str {
        match self {
            Self::CentreDots => "centre_dots",
            Self::LevelDots => "level_dots",
            Self::NecklineDots => "neckline_dots",
            Self::ShoulderDots => "shoulder_dots",
            Self::ShoulderOuterDots => "shoulder_outer_dots",
            Self::ArmholeDots => "armhole_dots",
            Self::ArmholeLowerDots => "armhole_lower_dots",
            Self::SideDots => "side_dots",
            Self::SideLowerDots => "side_lower_dots",
            Self::WaistDots => "waist_dots",
            Self::WaistOuterDots => "waist_outer_dots",
            Self::WaistDartInLeg => "waist_dart_in_leg",
            Self::WaistDartOutLeg => "waist_dart_out_leg",
            Self::ShoulderDartInLeg => "shoulder_dart_in_leg",
            Self::ShoulderDartOutLeg => "shoulder_dart_out_leg",
            Self::SideDartUpperLeg => "side_dart_upper_leg",
            Self::SideDartLowerLeg => "side_dart_lower_leg",
            Self::SlashUpperDots => "slash_upper_dots",
            Self::SlashLowerDots => "slash_lower_dots",
            Self::DrawnCentreDots => "drawn_centre_dots",
        }
    }

    /// What it is called at the table.
    pub const fn name(self) -> &'static str {
        match self {
            Self::CentreDots => "dots down the centre",
            Self::LevelDots => "dots on the level thread",
            Self::NecklineDots => "dots of the neckline",
            Self::ShoulderDots => "dots of the shoulder",
            Self::ShoulderOuterDots => "dots of the shoulder beyond the dart",
            Self::ArmholeDots => "dots of the armhole",
            Self::ArmholeLowerDots => "dots of the lower armhole",
            Self::SideDots => "dots of the side seam",
            Self::SideLowerDots => "dots of the side seam below the dart",
            Self::WaistDots => "dots of the waist",
            Self::WaistOuterDots => "dots of the waist beyond the dart",
            Self::WaistDartInLeg => "dots on the waist dart's leg towards the centre",
            Self::WaistDartOutLeg => "dots on the waist dart's leg towards the side",
            Self::ShoulderDartInLeg => "dots on the shoulder dart's leg towards the neck",
            Self::ShoulderDartOutLeg => "dots on the shoulder dart's leg towards the tip",
            Self::SideDartUpperLeg => "dots on the side dart's upper leg",
            Self::SideDartLowerLeg => "dots on the side dart's lower leg",
            Self::SlashUpperDots => "dots above the slash",
            Self::SlashLowerDots => "dots below the slash",
            Self::DrawnCentreDots => "dots of the drawn centre back",
        }
    }
}

/// A mark or a run: what is named where something is asked about it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum Named {
    /// A cross.
    Cross(Cross),
    /// A run of dots.
    Run(Run),
}

impl Named {
    /// As it stands in a file.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Cross(mark) => mark.code(),
            Self::Run(run) => run.code(),
        }
    }

    /// What it is called at the table.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Cross(mark) => mark.name(),
            Self::Run(run) => run.name(),
        }
    }

    fn of_code(code: &str) -> Option<Self> {
        let mark = Cross::ALL.into_iter().find(|mark| mark.code() == code).map(Self::Cross);
        mark.or_else(|| Run::ALL.into_iter().find(|run| run.code() == code).map(Self::Run))
    }
}

impl From<Cross> for Named {
    fn from(mark: Cross) -> Self {
        Self::Cross(mark)
    }
}

impl From<Run> for Named {
    fn from(run: Run) -> Self {
        Self::Run(run)
    }
}

/// Which end of a dart's mouth: the one the outline comes to first, or the other.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Leg {
    /// At a shoulder towards the neck, at a side above, at a waist towards the centre.
    Inner,
    /// The other.
    Outer,
}

/// The marks of one dart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) struct DartMarks {
    pub(super) place: DartPlace,
    pub(super) mouth: [Cross; 2],
    pub(super) legs: [Run; 2],
    pub(super) point: Cross,
}

impl DartMarks {
    /// The darts there are marks for.
    pub(super) const ALL: [Self; 3] = [
        Self {
            place: DartPlace::Shoulder,
            mouth: [Cross::ShoulderDartIn, Cross::ShoulderDartOut],
            legs: [Run::ShoulderDartInLeg, Run::ShoulderDartOutLeg],
            point: Cross::ShoulderDartPoint,
        },
        Self {
            place: DartPlace::Side,
            mouth: [Cross::SideDartUpper, Cross::SideDartLower],
            legs: [Run::SideDartUpperLeg, Run::SideDartLowerLeg],
            point: Cross::SideDartPoint,
        },
        Self {
            place: DartPlace::Waist,
            mouth: [Cross::WaistDartIn, Cross::WaistDartOut],
            legs: [Run::WaistDartInLeg, Run::WaistDartOutLeg],
            point: Cross::WaistDartPoint,
        },
    ];

    /// The mark of one end of the mouth.
    pub(super) const fn end(&self, leg: Leg) -> Cross {
        self.mouth[leg as usize]
    }

    /// The dots of one leg.
    pub(super) const fn leg(&self, leg: Leg) -> Run {
        self.legs[leg as usize]
    }
}

/// A run has at most so many dots.
const MOST_DOTS: usize = 200;

/// The marks of one piece, wherever it lay: x to the right, y downwards; of a photograph in pixels, else in millimetres.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Marks {
    points: BTreeMap<Cross, Point>,
    runs: BTreeMap<Run, Vec<Point>>,
}

impl Marks {
    /// Where a cross lies.
    pub fn get(&self, mark: Cross) -> Option<Point> {
        self.points.get(&mark).copied()
    }

    /// The dots of a run; none where it was not clicked.
    pub fn dots(&self, run: Run) -> &[Point] {
        self.runs.get(&run).map_or(&[], Vec::as_slice)
    }

    /// Whether it was clicked at all.
    pub fn has(&self, named: Named) -> bool {
        match named {
            Named::Cross(mark) => self.points.contains_key(&mark),
            Named::Run(run) => self.runs.contains_key(&run),
        }
    }

    /// Puts a cross somewhere.
    pub fn put(&mut self, mark: Cross, at: Point) {
        self.points.insert(mark, at);
    }

    /// Takes a cross away.
    pub fn take(&mut self, mark: Cross) -> Option<Point> {
        self.points.remove(&mark)
    }

    /// Puts the dots of a run; none takes the run away.
    pub fn put_dots(&mut self, run: Run, dots: Vec<Point>) {
        if dots.is_empty() {
            self.runs.remove(&run);
        } else {
            self.runs.insert(run, dots);
        }
    }

    /// The crosses, in their order.
    pub fn points(&self) -> impl Iterator<Item = (Cross, Point)> {
        self.points.iter().map(|(mark, point)| (*mark, *point))
    }

    /// The runs, in their order.
    pub fn runs(&self) -> impl Iterator<Item = (Run, &[Point])> {
        self.runs.iter().map(|(run, dots)| (*run, dots.as_slice()))
    }

    /// Whether nothing was clicked.
    pub fn is_empty(&self) -> bool {
        self.points.is_empty() && self.runs.is_empty()
    }

    /// Every point moved.
    #[must_use]
    pub(super) fn map(&self, to: impl Fn(Point) -> Point) -> Self {
        Self {
            points: self.points.iter().map(|(mark, point)| (*mark, to(*point))).collect(),
            runs: self
                .runs
                .iter()
                .map(|(run, dots)| (*run, dots.iter().map(|dot| to(*dot)).collect()))
                .collect(),
        }
    }

    /// Every point moved, where each can be.
    pub(super) fn try_map<E>(&self, to: impl Fn(Named, Point) -> Result<Point, E>) -> Result<Self, E> {
        let mut moved = Self::default();
        for (mark, point) in self.points() {
            moved.points.insert(mark, to(mark.into(), point)?);
        }
        for (run, dots) in self.runs() {
            let dots: Result<Vec<Point>, E> = dots.iter().map(|dot| to(run.into(), *dot)).collect();
            moved.runs.insert(run, dots?);
        }
        Ok(moved)
    }

    /// The same with two marks, or two runs, exchanged for each other.
    #[must_use]
    pub(super) fn exchanged(&self, one: Named, other: Named) -> Self {
        let mut marks = self.clone();
        match (one, other) {
            (Named::Cross(one), Named::Cross(other)) => {
                let (at_one, at_other) = (marks.points.remove(&one), marks.points.remove(&other));
                marks
                    .points
                    .extend(at_other.map(|at| (one, at)).into_iter().chain(at_one.map(|at| (other, at))));
            }
            (Named::Run(one), Named::Run(other)) => {
                let (at_one, at_other) = (marks.runs.remove(&one), marks.runs.remove(&other));
                marks
                    .runs
                    .extend(at_other.map(|at| (one, at)).into_iter().chain(at_one.map(|at| (other, at))));
            }
            _ => {}
        }
        marks
    }

    /// The darts of which something was marked.
    pub(super) fn darts(&self) -> impl Iterator<Item = DartMarks> {
        DartMarks::ALL.into_iter().filter(|dart| {
            let mouth = dart.mouth.into_iter().any(|mark| self.points.contains_key(&mark));
            mouth || dart.legs.into_iter().any(|run| self.runs.contains_key(&run))
        })
    }

    /// Whether that dart is there.
    pub(super) fn has_dart(&self, place: DartPlace) -> bool {
        self.darts().any(|dart| dart.place == place)
    }
}

/// One place or several, as they stand in a file.
#[derive(Serialize, Deserialize)]
#[serde(untagged)]
enum Places {
    One([f64; 2]),
    Several(Vec<[f64; 2]>),
}

impl Serialize for Marks {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let pair = |point: &Point| [point.x, point.y];
        let points = self.points.iter().map(|(mark, point)| (mark.code(), Places::One(pair(point))));
        let runs = self.runs.iter().map(|(run, dots)| {
            let dots: Vec<_> = dots.iter().map(pair).collect();
            (run.code(), Places::Several(dots))
        });
        serializer.collect_map(points.chain(runs))
    }
}

impl<'de> Deserialize<'de> for Marks {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        use serde::de::Error;
        let told = BTreeMap::<String, Places>::deserialize(deserializer)?;
        let mut marks = Self::default();
        for (code, places) in told {
            let point = |[x, y]: [f64; 2]| Point::new(x, y);
            match (Named::of_code(&code), places) {
                (Some(Named::Cross(mark)), Places::One(place)) => marks.put(mark, point(place)),
                (Some(Named::Run(run)), Places::Several(places)) if places.len() <= MOST_DOTS => {
                    marks.put_dots(run, places.into_iter().map(point).collect());
                }
                (Some(Named::Cross(_)), Places::Several(_)) => {
                    return Err(D::Error::custom(format!("{code} is one mark: give it one place")));
                }
                (Some(Named::Run(_)), _) => {
                    let says = format!("{code} is a run of dots: give it a list of 1 to {MOST_DOTS} places");
                    return Err(D::Error::custom(says));
                }
                (None, _) => return Err(D::Error::custom(format!("there is no mark called “{code}”"))),
            }
        }
        Ok(marks)
    }
}

/// Whether every place is a number of a believable size.
pub(super) fn are_on_the_table(marks: &Marks) -> Result<(), Named> {
    let points = marks.points().map(|(mark, at)| (Named::from(mark), at));
    let dots = marks.runs().flat_map(|(run, dots)| dots.iter().map(move |dot| (Named::from(run), *dot)));
    points.chain(dots).find(|(_, at)| !is_on_the_table(*at)).map_or(Ok(()), |(named, _)| Err(named))
}
