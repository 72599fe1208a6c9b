//! Whether the marks lie where such marks lie, before any line is drawn; and which two look exchanged where they do not.
//!
//! The limits are those of drape.md, section 5, in millimetres in the piece's own frame.

use std::ops::Range;

use kurbo::{Point, Rect};

use super::facts::Hand;
use super::frame::{Framed, frame};
use super::marks::{Cross, Leg, Marks, Named, Run};
use super::report::{Ask, Draped, Exchange, Notes};
use crate::pattern::DartPlace;

/// What does not lie as it should: the marks in doubt, and how it is said.
pub(super) struct Fault {
    marks: Vec<Named>,
    says: String,
}

/// A dart's mouth, in millimetres.
const MOUTH: Range<f64> = 2.0..175.0;
/// How far a run's dots lie outside the box of its ends; of a waist above and below.
const BESIDE: f64 = 12.0;
const WAIST_ABOVE: f64 = 120.0;
const WAIST_BELOW: f64 = 60.0;
/// How far a dot on a leg lies beyond the dart's own middle.
const OVER_AXIS: f64 = 3.5;
/// So many dots of a leg, from the mouth, are looked at: nearer to the point both legs are one.
const NEAR_MOUTH: usize = 2;

struct Looked<'a> {
    piece: Draped,
    marks: &'a Marks,
    faults: Vec<Fault>,
}

/// Everything about a piece in its own frame that lies where it cannot.
pub(super) fn faults(piece: Draped, marks: &Marks) -> Vec<Fault> {
    let mut looked = Looked { piece, marks, faults: Vec::new() };
    looked.outline();
    looked.darts();
    looked.runs();
    looked.faults
}

impl Looked<'_> {
    fn at(&self, mark: Cross) -> Option<Point> {
        self.marks.get(mark)
    }

    /// Holds `mm` against its limits.
    fn hold(&mut self, mm: Option<f64>, within: Range<f64>, marks: [Cross; 2], what: &str) {
        let Some(mm) = mm.filter(|mm| !within.contains(mm)) else { return };
        let [one, other] = marks;
        let usual = if within.end.is_finite() {
            format!("{} to {} mm", within.start, within.end)
        } else {
            format!("over {} mm", within.start)
        };
        let says = format!(
            "The {} and the {} of the {} cannot both be right: {what} {mm:.0} mm, usual is {usual}.",
            one.name(),
            other.name(),
            self.piece.name()
        );
        self.faults.push(Fault { marks: vec![one.into(), other.into()], says });
    }

    fn outline(&mut self) {
        use Cross::{Across, CentreTop, CentreWaist, NeckSide, SideWaist, Tip, Underarm};
        // What a front's dart above the waist turns lies further off.
        let is_turned = self.piece == Draped::Front
            && (self.marks.has_dart(DartPlace::Shoulder) || self.marks.has_dart(DartPlace::Side));
        let wide = |usual: f64, turned: f64| if is_turned { turned } else { usual };
        let pit = if self.piece == Draped::Front { 40.0..150.0 } else { 4.0..50.0 };
        let apart = |one: Cross, other: Cross| Some(self.at(other)? - self.at(one)?);
        let (neck, tip) = (apart(CentreTop, NeckSide), apart(NeckSide, Tip));
        let (across, underarm) = (apart(Tip, Across), apart(Across, Underarm));
        let (side, centre) = (apart(Underarm, SideWaist), apart(CentreTop, CentreWaist));
        let waist = apart(CentreWaist, SideWaist);
        let neck_out = self.at(NeckSide).map(|at| at.x);
        self.hold(neck_out, 40.0..135.0, [NeckSide, CentreTop], "the neck side lies off the centre by");
        self.hold(neck.map(|by| -by.y), pit, [CentreTop, NeckSide], "the neck is deep");
        self.hold(tip.map(|by| by.x), 45.0..f64::INFINITY, [NeckSide, Tip], "the tip lies to the side by");
        let drop = 10.0..wide(130.0, 190.0);
        self.hold(tip.map(|by| by.y), drop, [NeckSide, Tip], "the tip lies lower by");
        let long = 75.0..wide(240.0, 300.0);
        self.hold(tip.map(|by| by.hypot()), long, [NeckSide, Tip], "the shoulder is long");
        self.hold(across.map(|by| by.y), 35.0..f64::INFINITY, [Tip, Across], "across lies lower by");
        self.hold(across.map(|by| by.x), -70.0..30.0, [Tip, Across], "across lies to the side by");
        self.hold(
            underarm.map(|by| by.x),
            5.0..f64::INFINITY,
            [Across, Underarm],
            "the underarm lies to the side by",
        );
        self.hold(underarm.map(|by| by.y), 15.0..200.0, [Across, Underarm], "the underarm lies lower by");
        let long = 90.0..wide(330.0, 430.0);
        self.hold(side.map(|by| by.y), long, [Underarm, SideWaist], "the waist lies lower by");
        let most = wide(130.0, 200.0);
        self.hold(side.map(|by| by.x), -most..most, [Underarm, SideWaist], "the waist lies to the side by");
        self.hold(waist.map(|by| by.y), -150.0..75.0, [CentreWaist, SideWaist], "the side lies lower by");
        self.hold(
            centre.map(|by| by.y),
            230.0..f64::INFINITY,
            [CentreTop, CentreWaist],
            "the centre is long",
        );
    }

    /// The end marks of a dart in order, and on the stretch of their seam.
    fn darts(&mut self) {
        for dart in self.marks.darts() {
            let (inner, outer) = (dart.end(Leg::Inner), dart.end(Leg::Outer));
            let (Some(first), Some(second)) = (self.at(inner), self.at(outer)) else { continue };
            let is_side = dart.place == DartPlace::Side;
            let in_order = if is_side { first.y < second.y } else { first.x < second.x };
            if !in_order {
                let says = format!("The {} and the {} look exchanged.", inner.name(), outer.name());
                self.faults.push(Fault { marks: vec![inner.into(), outer.into()], says });
            }
            let mouth = first.distance(second);
            self.hold(Some(mouth), MOUTH, [inner, outer], "the mouth of the dart is wide");
            let (from, to) = match dart.place {
                DartPlace::Shoulder => (Cross::NeckSide, Cross::Tip),
                DartPlace::Side => (Cross::Underarm, Cross::SideWaist),
                _ => (Cross::CentreWaist, Cross::SideWaist),
            };
            let (Some(begins), Some(ends)) = (self.at(from), self.at(to)) else { continue };
            let along = |at: Point| if is_side { at.y } else { at.x };
            let order = [along(begins), along(first), along(second), along(ends)];
            for (pair, marks) in order.windows(2).zip([[from, inner], [inner, outer], [outer, to]]) {
                if pair[0] >= pair[1] && marks != [inner, outer] {
                    let [one, other] = marks;
                    let says = format!("The {} lies beyond the {}.", other.name(), one.name());
                    self.faults.push(Fault { marks: vec![one.into(), other.into()], says });
                }
            }
            self.mouth_on_seam(dart.place, [(inner, first), (outer, second)], (begins, ends));
            self.point_inside(dart.point, &[inner, outer]);
            self.legs_apart(&dart);
        }
    }

    /// A mouth lies near the line between the ends of its seam.
    fn mouth_on_seam(
        &mut self,
        place: DartPlace,
        mouth: [(Cross, Point); 2],
        (begins, ends): (Point, Point),
    ) {
        let around = Rect::from_points(begins, ends);
        let (above, below, beside) = match place {
            DartPlace::Waist => (WAIST_ABOVE, WAIST_BELOW, BESIDE),
            // A dart that is open pushes its seam's further stretch out.
            _ => (WAIST_BELOW, WAIST_BELOW, WAIST_BELOW),
        };
        let around = Rect::new(around.x0 - beside, around.y0 - above, around.x1 + beside, around.y1 + below);
        for (mark, at) in mouth {
            if !around.contains(at) {
                let says = format!("The {} does not lie on its seam.", mark.name());
                self.faults.push(Fault { marks: vec![mark.into()], says });
            }
        }
    }

    /// Where a dart runs out lies inside the piece: between the centre and the side, above the waist.
    fn point_inside(&mut self, point: Cross, mouth: &[Cross]) {
        let (Some(at), Some(pit), Some(waist)) =
            (self.at(point), self.at(Cross::CentreTop), self.at(Cross::CentreWaist))
        else {
            return;
        };
        let is_inside = at.x > 0.0 && at.y < waist.y && at.y > pit.y.min(0.0);
        if !is_inside {
            let marks = std::iter::once(point).chain(mouth.iter().copied()).map(Named::from).collect();
            self.faults.push(Fault { marks, says: format!("The {} lies outside the piece.", point.name()) });
        }
    }

    /// No dot of a leg lies over the middle of the dart: it would be the other leg's.
    fn legs_apart(&mut self, dart: &super::marks::DartMarks) {
        let pivot = match self.piece {
            Draped::Front => self.at(Cross::BustPoint),
            Draped::Back => self.at(dart.point),
        };
        let mouth = dart.mouth.map(|mark| self.at(mark));
        let (Some(pivot), [Some(first), Some(second)]) = (pivot, mouth) else { return };
        let middle = first.midpoint(second) - pivot;
        let middle = middle / middle.hypot().max(1e-9);
        let side_of_first = middle.cross(first - pivot).signum();
        for (leg, sign) in [(Leg::Inner, side_of_first), (Leg::Outer, -side_of_first)] {
            let dots = self.marks.dots(dart.leg(leg));
            let over = |dot: &Point| -middle.cross(*dot - pivot) * sign;
            if dots.iter().take(NEAR_MOUTH).any(|dot| over(dot) > OVER_AXIS) {
                let marks = dart.legs.map(Named::from).to_vec();
                let says = format!("The {} lie on the other leg of the dart.", dart.leg(leg).name());
                self.faults.push(Fault { marks, says });
            }
        }
    }

    /// A run lies in the box of the marks at its ends.
    fn runs(&mut self) {
        for (run, dots) in self.marks.runs() {
            let Some([from, to]) = self.ends_of(run) else { continue };
            let (Some(begins), Some(ends)) = (self.at(from), self.at(to)) else { continue };
            let on_waist = matches!(run, Run::WaistDots | Run::WaistOuterDots);
            let (above, below) = if on_waist { (WAIST_ABOVE, WAIST_BELOW) } else { (BESIDE, BESIDE) };
            let around = Rect::from_points(begins, ends);
            let around =
                Rect::new(around.x0 - BESIDE, around.y0 - above, around.x1 + BESIDE, around.y1 + below);
            if dots.iter().any(|dot| !around.contains(*dot)) {
                let says =
                    format!("Not all {} lie between the {} and the {}.", run.name(), from.name(), to.name());
                let marks = vec![run.into(), from.into(), to.into()];
                self.faults.push(Fault { marks, says });
            }
        }
    }

    /// The marks at the ends of a run; none of a leg and of a thread.
    fn ends_of(&self, run: Run) -> Option<[Cross; 2]> {
        let or = |dart: Cross, end: Cross| if self.at(dart).is_some() { dart } else { end };
        Some(match run {
            Run::CentreDots => [Cross::CentreTop, Cross::CentreWaist],
            Run::NecklineDots => [Cross::CentreTop, Cross::NeckSide],
            Run::ShoulderDots => [Cross::NeckSide, or(Cross::ShoulderDartIn, Cross::Tip)],
            Run::ShoulderOuterDots => [or(Cross::ShoulderDartOut, Cross::NeckSide), Cross::Tip],
            Run::ArmholeDots => [Cross::Tip, Cross::Across],
            Run::ArmholeLowerDots => [Cross::Across, Cross::Underarm],
            Run::SideDots => [Cross::Underarm, or(Cross::SideDartUpper, Cross::SideWaist)],
            Run::SideLowerDots => [or(Cross::SideDartLower, Cross::Underarm), Cross::SideWaist],
            Run::WaistDots => [Cross::CentreWaist, or(Cross::WaistDartIn, Cross::SideWaist)],
            Run::WaistOuterDots => [or(Cross::WaistDartOut, Cross::CentreWaist), Cross::SideWaist],
            Run::LevelDots
            | Run::WaistDartInLeg
            | Run::WaistDartOutLeg
            | Run::ShoulderDartInLeg
            | Run::ShoulderDartOutLeg
            | Run::SideDartUpperLeg
            | Run::SideDartLowerLeg
            // A slashed back is not drawn as a piece.
            | Run::SlashUpperDots
            | Run::SlashLowerDots
            | Run::DrawnCentreDots => return None,
        })
    }
}

/// The questions about what does not lie as it should: with an exchange that would mend it, where there is one.
pub(super) fn asks(piece: Draped, placed: &Marks, hand: &Hand, faults: &[Fault]) -> Vec<Ask> {
    if let Some(Exchange { one, other }) = exchange_that_mends(piece, placed, hand) {
        let says = format!(
            "On the {} the {} and the {} look swapped: exchange them?",
            piece.name(),
            one.name(),
            other.name()
        );
        let offer = Some(Exchange { one, other });
        return vec![Ask { piece: Some(piece), marks: vec![one, other], says, offer }];
    }
    let ask = |fault: &Fault| Ask {
        piece: Some(piece),
        marks: fault.marks.clone(),
        says: format!("{} Click them again.", fault.says),
        offer: None,
    };
    faults.iter().map(ask).collect()
}

/// The exchange of two marks, or of two runs, that leaves nothing in doubt: the one that moves least, where there are several.
fn exchange_that_mends(piece: Draped, placed: &Marks, hand: &Hand) -> Option<Exchange> {
    let points: Vec<Named> = placed.points().map(|(mark, _)| mark.into()).collect();
    let runs: Vec<Named> = placed.runs().map(|(run, _)| run.into()).collect();
    let pairs = |names: Vec<Named>| -> Vec<(Named, Named)> {
        (0..names.len())
            .flat_map(|one| (one + 1..names.len()).map(move |other| (one, other)))
            .map(|(one, other)| (names[one], names[other]))
            .collect()
    };
    let place = |named: Named| match named {
        Named::Cross(mark) => placed.get(mark),
        Named::Run(run) => placed.dots(run).first().copied(),
    };
    let apart = |(one, other): (Named, Named)| {
        place(one).zip(place(other)).map_or(f64::INFINITY, |(one, other)| one.distance(other))
    };
    let mends = |(one, other): (Named, Named)| -> bool {
        let mut unheard = Notes::default();
        let framed = frame(piece, &placed.exchanged(one, other), hand, &mut unheard);
        framed.is_ok_and(|Framed { marks, .. }| faults(piece, &marks).is_empty() && unheard.asks.is_empty())
    };
    let found = pairs(points).into_iter().chain(pairs(runs)).filter(|pair| mends(*pair));
    let (one, other) = found.min_by(|one, other| apart(*one).total_cmp(&apart(*other)))?;
    Some(Exchange { one, other })
}
