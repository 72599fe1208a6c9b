//! Balance lines: heights of one line at stations round the body, what they say of the hang, and what levels it.
//! The same sums serve for marking a form level.

use serde::{Deserialize, Serialize};

use super::{Decision, Lie, Observation, ObservationKind};
use crate::alter::{Amounts, alteration};
use crate::body::{LineHeights, Side};
use crate::pattern::WornSide;
use crate::{Shown, Style};

/// Off level by this, in millimetres, counts: an eighth of an inch, what a tape can tell (common practice, no source).
const LEVEL_ENOUGH: f64 = 3.2;

/// Where a line's height is taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Station {
    /// At the centre front.
    CentreFront,
    /// At her left side.
    Left,
    /// At her right side.
    Right,
    /// At the centre back.
    CentreBack,
}

impl Station {
    /// Round the body.
    pub const ALL: [Self; 4] = [Self::CentreFront, Self::Left, Self::Right, Self::CentreBack];

    /// The words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::CentreFront => "centre front",
            Self::Left => "left",
            Self::Right => "right",
            Self::CentreBack => "centre back",
        }
    }

    /// The station of a name.
    pub fn of(name: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|station| station.name() == name)
    }

    const fn height(self, heights: LineHeights) -> Option<f64> {
        match self {
            Self::CentreFront => heights.front,
            Self::Left => heights.left,
            Self::Right => heights.right,
            Self::CentreBack => heights.back,
        }
    }
}

/// A line drawn level on the toile.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum BalanceLine {
    /// At the bust.
    Bust,
    /// At the waist.
    Waist,
    /// At the hip.
    Hip,
    /// The hem.
    Hem,
}

impl BalanceLine {
    /// From the top.
    pub const ALL: [Self; 4] = [Self::Bust, Self::Waist, Self::Hip, Self::Hem];

    /// The trade's word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Bust => "bust line",
            Self::Waist => "waist line",
            Self::Hip => "hip line",
            Self::Hem => "hem",
        }
    }
}

/// A station against where the line hangs free.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StationOff {
    /// Where.
    pub station: Station,
    /// Its name.
    pub name: String,
    /// Above (positive) or below where it hangs free.
    pub off: Shown,
    /// It is caught on the body and does not count for where the line hangs free.
    pub caught: bool,
}

/// What levels a line.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Levelling {
    /// The station it levels.
    pub station: Station,
    /// The line rises there; it sinks otherwise.
    pub rises: bool,
    /// Code of the cause.
    pub cause: String,
    /// In a sentence.
    pub says: String,
    /// Code of the alteration.
    pub alteration: String,
    /// Its name.
    pub alteration_name: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// The side it is done on; both unless told.
    pub side: Option<WornSide>,
    /// How much the line is still off, at its worst, when this and the ones before it are done.
    pub residual: Shown,
}

/// A line read.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Balance {
    /// Front less back: positive where it rises in front. `None` where one of them was not taken.
    pub tilt_front_back: Option<Shown>,
    /// Her left less her right.
    pub tilt_left_right: Option<Shown>,
    /// Each station that was taken.
    pub stations: Vec<StationOff>,
    /// Whether it is level enough.
    pub level: bool,
    /// In a sentence each.
    pub says: Vec<String>,
    /// What would level it, the largest fault first.
    pub solutions: Vec<Levelling>,
}

impl Balance {
    /// How far a station is off, in millimetres.
    pub fn off(&self, station: Station) -> Option<f64> {
        self.stations.iter().find(|each| each.station == station).map(|each| each.off.mm)
    }
}

/// Reads a line off its heights. A station that is caught on the body does not count for where the line hangs free.
/// `None` with fewer than two stations, or with none that hangs free.
pub fn read_balance(heights: LineHeights, caught: &[Station], style: Style) -> Option<Balance> {
    let taken: Vec<(Station, f64)> =
        Station::ALL.into_iter().filter_map(|s| Some((s, s.height(heights)?))).collect();
    if taken.len() < 2 {
        return None;
    }
    let free: Vec<f64> = taken.iter().filter(|(s, _)| !caught.contains(s)).map(|(_, mm)| *mm).collect();
    let free = median(free)?;
    let offs: Vec<(Station, f64)> = taken.iter().map(|(s, mm)| (*s, mm - free)).collect();
    let off = |station: Station| offs.iter().find(|(s, _)| *s == station).map(|(_, mm)| *mm);
    let tilt = |a: Station, b: Station| Some(style.show(off(a)? - off(b)?));
    let says = offs.iter().filter(|(_, mm)| mm.abs() > LEVEL_ENOUGH).map(|(station, mm)| {
        let way = if *mm > 0.0 { "rises" } else { "sinks" };
        format!("At the {} it {way} {}.", station.name(), style.with_unit(mm.abs()))
    });
    let says: Vec<_> = says.collect();
    Some(Balance {
        tilt_front_back: tilt(Station::CentreFront, Station::CentreBack),
        tilt_left_right: tilt(Station::Left, Station::Right),
        level: says.is_empty(),
        says,
        solutions: solve(&offs, style),
        stations: offs
            .iter()
            .map(|(station, mm)| StationOff {
                station: *station,
                name: station.name().to_owned(),
                off: style.show(*mm),
                caught: caught.contains(station),
            })
            .collect(),
    })
}

/// One alteration a station that is off, the largest first; each says what is left when it is done.
fn solve(offs: &[(Station, f64)], style: Style) -> Vec<Levelling> {
    let mut left: Vec<(Station, f64)> = offs.to_vec();
    let mut solutions = Vec::new();
    for _ in 0..offs.len() {
        let worst = left.iter().copied().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
        let Some((station, mm)) = worst.filter(|(_, mm)| mm.abs() > LEVEL_ENOUGH) else { break };
        let (cause, code, amounts, side) = levels(station, mm, &left);
        let done = held(code, amounts);
        for each in &mut left {
            if each.0 == station {
                each.1 -= mm.signum() * done.amount().abs().min(mm.abs());
            }
        }
        let residual = left.iter().map(|(_, mm)| mm.abs()).fold(0.0, f64::max);
        let known = alteration(code).map_or("", |known| known.name());
        let on = side.map(|side| format!(" on the {}", side.name())).unwrap_or_default();
        let way = if mm > 0.0 { "rises" } else { "sinks" };
        let stops = done.amount().abs() + LEVEL_ENOUGH < mm.abs();
        solutions.push(Levelling {
            station,
            rises: mm > 0.0,
            cause: cause.to_owned(),
            says: format!(
                "The line {way} {} at the {}: {} {}{on}.",
                style.with_unit(mm.abs()),
                station.name(),
                known.to_lowercase(),
                style.with_unit(done.amount())
            ),
            alteration: code.to_owned(),
            alteration_name: known.to_owned(),
            amounts: done,
            side,
            residual: style.show(residual),
        });
        // What one alteration cannot take in is left for her to divide.
        if stops {
            break;
        }
    }
    solutions
}

/// What levels one station: the cause, the alteration, its amounts and side.
fn levels(
    station: Station,
    mm: f64,
    offs: &[(Station, f64)],
) -> (&'static str, &'static str, Amounts, Option<WornSide>) {
    let of = |station: Station| offs.iter().find(|(s, _)| *s == station).map_or(0.0, |(_, mm)| *mm);
    match station {
        Station::CentreBack => {
            let cause = if mm > 0.0 { "rounded_back" } else { "erect_back" };
            (cause, "rounded_back", Amounts::of(mm), None)
        }
        Station::CentreFront => {
            let amounts = Amounts::of(mm).by("pieces", "front").by("at", "waist");
            let cause = if mm > 0.0 { "short_front" } else { "long_bodice" };
            (cause, "length", amounts, None)
        }
        Station::Left | Station::Right => {
            let both = of(Station::Left) * of(Station::Right) > 0.0
                && (of(Station::Left) - of(Station::Right)).abs() <= LEVEL_ENOUGH;
            let side = if station == Station::Left { WornSide::Left } else { WornSide::Right };
            let cause = match (both, mm < 0.0) {
                (true, true) => "sloping_shoulders",
                (true, false) => "square_shoulders",
                (false, _) => "low_shoulder",
            };
            // A side that sinks hangs from a shoulder that drops: the slope takes it up.
            (cause, "shoulder_slope", Amounts::of(-mm), (!both).then_some(side))
        }
    }
}

/// Amounts within what the alteration takes.
fn held(code: &str, amounts: Amounts) -> Amounts {
    let param = alteration(code).and_then(|known| known.params().first());
    let mm = param.map_or(amounts.amount(), |param| amounts.amount().clamp(param.low, param.high));
    amounts.with("amount", mm)
}

/// The middle height; the mean of the two middle ones where they are even.
fn median(mut heights: Vec<f64>) -> Option<f64> {
    heights.sort_by(f64::total_cmp);
    let middle = heights.len() / 2;
    match heights.len() {
        0 => None,
        n if n % 2 == 1 => Some(heights[middle]),
        _ => Some(heights[middle - 1].midpoint(heights[middle])),
    }
}

impl Levelling {
    /// What is written down when it is taken up: the line's fault as a fitter would enter it, and the decision.
    pub fn taken(&self, line: BalanceLine) -> (Observation, Decision) {
        let low = matches!(line, BalanceLine::Hip | BalanceLine::Hem);
        let place = match self.station {
            Station::CentreBack if low => "back hem",
            Station::CentreBack => "back waist",
            Station::CentreFront if low => "front hem",
            Station::CentreFront => "front waist",
            Station::Left | Station::Right => "waist at the side",
        };
        let seen = Observation {
            lie: Some(if self.rises { Lie::Up } else { Lie::Down }),
            side: self.side.map_or(Side::Both, |side| match side {
                WornSide::Left => Side::Left,
                WornSide::Right => Side::Right,
            }),
            note: format!("{}: {}", line.name(), self.says),
            ..Observation::of(ObservationKind::Hike, place)
        };
        let decision = Decision::Alter {
            alteration: self.alteration.clone(),
            amounts: self.amounts.clone(),
            side: self.side,
            cause: Some(self.cause.clone()),
            overruled: String::new(),
        };
        (seen, decision)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn heights(front: f64, left: f64, right: f64, back: f64) -> LineHeights {
        LineHeights { front: Some(front), left: Some(left), right: Some(right), back: Some(back) }
    }

    #[test]
    fn a_line_that_rises_behind_is_a_rounded_back_of_as_much() {
        let read = read_balance(heights(1000.0, 1000.0, 1000.0, 1015.0), &[], Style::TENTHS).unwrap();
        assert_eq!(read.off(Station::CentreBack), Some(15.0));
        assert_eq!(read.tilt_front_back.unwrap().mm, -15.0);
        let [only] = read.solutions.as_slice() else { panic!("{:?}", read.solutions) };
        assert_eq!((only.alteration.as_str(), only.amounts.amount()), ("rounded_back", 15.0));
        assert_eq!(only.residual.mm, 0.0);
    }

    #[test]
    fn a_levelling_is_written_down_where_the_line_is_off() {
        let taken = |line, at: LineHeights| {
            let read = read_balance(at, &[], Style::EIGHTHS).unwrap();
            let (seen, decision) = read.solutions[0].taken(line);
            (seen.said(), decision.cause().unwrap_or_default().to_owned())
        };
        let behind = heights(1000.0, 1000.0, 1000.0, 1010.0);
        let rounded = "rounded_back".to_owned();
        assert_eq!(taken(BalanceLine::Waist, behind), ("Hike at back waist".to_owned(), rounded.clone()));
        assert_eq!(taken(BalanceLine::Hip, behind), ("Hike at back hem".to_owned(), rounded));
        let left = heights(1000.0, 992.0, 1000.0, 1000.0);
        let low = ("Drop at waist at the side, on the left".to_owned(), "low_shoulder".to_owned());
        assert_eq!(taken(BalanceLine::Bust, left), low);
    }

    #[test]
    fn one_side_that_sinks_is_a_slope_on_that_side() {
        let read = read_balance(heights(1000.0, 1000.0, 990.0, 1000.0), &[], Style::TENTHS).unwrap();
        let first = &read.solutions[0];
        assert_eq!((first.alteration.as_str(), first.amounts.amount()), ("shoulder_slope", 10.0));
        assert_eq!(first.side, Some(WornSide::Right));
        assert_eq!(read.tilt_left_right.unwrap().mm, 10.0);
    }

    #[test]
    fn two_faults_are_taken_one_after_the_other_and_the_rest_is_told() {
        let read = read_balance(heights(1012.0, 1000.0, 1000.0, 1020.0), &[], Style::TENTHS).unwrap();
        // Half-way between 1000 and 1012 is where the middle lies; what hangs free is the sides.
        let free = read_balance(
            heights(1012.0, 1000.0, 1000.0, 1020.0),
            &[Station::CentreFront, Station::CentreBack],
            Style::TENTHS,
        )
        .unwrap();
        assert_eq!(read.off(Station::CentreBack), Some(14.0));
        let codes: Vec<_> = free.solutions.iter().map(|s| (s.alteration.as_str(), s.residual.mm)).collect();
        assert_eq!(codes, [("rounded_back", 12.0), ("length", 0.0)]);
    }

    #[test]
    fn what_the_alteration_cannot_take_stays_as_the_residual() {
        let read = read_balance(heights(1000.0, 1000.0, 1000.0, 1055.0), &[], Style::TENTHS).unwrap();
        assert_eq!(read.solutions[0].amounts.amount(), 40.0);
        assert_eq!(read.solutions[0].residual.mm, 15.0);
        assert_eq!(read.solutions.len(), 1);
    }

    #[test]
    fn within_an_eighth_it_is_level_and_one_height_says_nothing() {
        let read = read_balance(heights(1000.0, 1001.0, 1002.0, 1003.0), &[], Style::EIGHTHS).unwrap();
        assert!(read.level && read.solutions.is_empty());
        assert!(
            read_balance(LineHeights { front: Some(1.0), ..LineHeights::default() }, &[], Style::TENTHS)
                .is_none()
        );
    }
}
