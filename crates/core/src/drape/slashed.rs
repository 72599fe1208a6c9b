//! A back that was slashed on her: what the slash opened by, and where the centre back was drawn anew. It makes no block: it says
//! how a rounded back is cut, in place of the house's curve.

use kurbo::{Affine, Point};
use nalgebra::{DMatrix, DVector};
use serde::Serialize;

use super::facts::Hand;
use super::frame::{ask_about_left_out, dots_along};
use super::marks::{Cross, Marks, Named, Run};
use super::report::{Ask, Draped, Notes, Refusal, listed};
use super::straight::{Dot, StraightLine};
use crate::geometry::Pt;

/// Why it is not drawn as a block.
pub(super) const NO_BLOCK: &str =
    "A slashed back makes no block: a rounded back on the cutting table takes it over.";

/// How wide the slash gapes at one mark.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MarkedGap {
    /// How far from the straight centre, in millimetres.
    pub from_centre: f64,
    /// How wide it gapes there along the centre, in millimetres.
    pub opens: f64,
}

/// What a slashed back tells.
#[derive(Clone, Debug, PartialEq)]
pub struct SlashedBack {
    /// What the slash opened by at the centre, in millimetres.
    pub opens: f64,
    /// Where it was cut, below the nape, in millimetres.
    pub below_nape: f64,
    /// How far in from the straight centre the drawn one stands, in millimetres: at the edge below the slash, and a quarter, half and
    /// three quarters of the way from there to the nape.
    pub stands_in: [f64; 4],
    /// How far in the nape stands, in millimetres.
    pub nape_in: f64,
    /// How wide it gapes at each mark, from the centre outwards.
    pub gaps: Vec<MarkedGap>,
    /// How far from the centre it closes, in millimetres; none where the gaps do not tell.
    pub closes_at: Option<f64>,
    /// The furthest dot from the drawn centre as it is read, in millimetres.
    pub furthest: f64,
    /// What must be looked at again.
    pub asks: Vec<Ask>,
    /// What else there is to say.
    pub notes: Vec<String>,
    /// What was marked: x from the straight centre outwards, y down from the edge below the slash.
    pub clicked: Marks,
    /// The drawn centre in the same frame, from below the slash up to the nape.
    pub drawn: Vec<Pt>,
}

impl SlashedBack {
    /// A slash lies so far below the nape, in millimetres (common practice, no source).
    pub const LEVELS: (f64, f64) = (40.0, 200.0);
    /// A back opens by so much at most, in millimetres (common practice, no source).
    pub const MOST_OPENED: f64 = 40.0;
    /// The drawn centre stands in by so much at most, in millimetres (common practice, no source).
    pub const MOST_IN: f64 = 60.0;
    /// Where the drawn centre is read: shares of the way from the slash to the nape.
    pub const READ_AT: [f64; 4] = [0.0, 0.25, 0.5, 0.75];
}

/// With less than this the edges lie on each other, or were exchanged, in millimetres.
const LEAST_OPENED: f64 = 1.0;
/// A dot that is left out lies so many times the doubtful distance from the line of the others.
const FAR_OUT: f64 = 1.15;
/// With its lowest dot higher than this share of the way the line is not known at the slash.
const LOW_ENOUGH: f64 = 0.3;
/// With fewer dots a drawn line is not told from a straight one.
const FEWEST_DOTS: usize = 3;
/// So many places bear a curve that turns over.
const MANY: usize = 8;
/// So many places of the drawn centre are given to be drawn.
const DRAWN: u32 = 24;

/// Reads the marks of a slashed back, in millimetres on the table.
pub(super) fn read(marks: &Marks, hand: &Hand, mut notes: Notes) -> Result<SlashedBack, Refusal> {
    let missing = [
        Named::from(Cross::CentreTop),
        Named::from(Cross::CentreWaist),
        Named::from(Run::SlashLowerDots),
        Named::from(Run::SlashUpperDots),
        Named::from(Run::DrawnCentreDots),
    ];
    let missing: Vec<Named> = missing.into_iter().filter(|named| !marks.has(*named)).collect();
    if !missing.is_empty() {
        let names: Vec<&str> = missing.iter().map(|named| named.name()).collect();
        let says = format!("The back has no mark for the {}: click what is missing.", listed(&names));
        return Err(Refusal::new(Draped::Back, &missing, says));
    }
    let dots = marks.dots(Run::DrawnCentreDots).len();
    if dots < FEWEST_DOTS {
        let says = format!(
            "The drawn centre back has {dots} {}: dot it at four places or more, from the slash up to the nape.",
            if dots == 1 { "dot" } else { "dots" }
        );
        return Err(Refusal::new(Draped::Back, &[Run::DrawnCentreDots.into()], says));
    }
    let marks = in_frame(marks, hand, &mut notes)?;
    let gaps = gaps(&marks, hand, &mut notes)?;
    let opens = gaps.first().map_or(0.0, |gap| gap.opens);
    let of_slash = [Run::SlashUpperDots.into(), Run::SlashLowerDots.into()];
    if !(LEAST_OPENED..=SlashedBack::MOST_OPENED).contains(&opens) {
        let says = if opens < LEAST_OPENED {
            "The edge above the slash does not lie above the one below it at the centre: click the first dot of each anew, or exchange \
             the two edges."
                .to_owned()
        } else {
            format!(
                "The slash gapes {opens:.0} mm at the centre; a back is opened by up to {:.0} mm: look at the scale, and at the first dots of both edges.",
                SlashedBack::MOST_OPENED
            )
        };
        return Err(Refusal::new(Draped::Back, &of_slash, says));
    }
    let nape = marks.get(Cross::CentreTop).unwrap_or_default();
    let upper = marks.dots(Run::SlashUpperDots).first().copied().unwrap_or_default();
    let below_nape = upper.distance(nape);
    let (highest, lowest) = SlashedBack::LEVELS;
    if nape.y >= upper.y || !(highest..=lowest).contains(&below_nape) {
        let says = format!(
            "The slash lies {below_nape:.0} mm from the nape; it is cut {highest:.0} to {lowest:.0} mm below it: look at the scale, and at both marks."
        );
        return Err(Refusal::new(Draped::Back, &[Cross::CentreTop.into(), Run::SlashUpperDots.into()], says));
    }
    let line = drawn_centre(&marks, nape, hand, &mut notes);
    let stands_in = SlashedBack::READ_AT.map(|share| line.at(share));
    if let Some(far) = stands_in.into_iter().find(|by| *by > SlashedBack::MOST_IN) {
        let says = format!(
            "The drawn centre stands {far:.0} mm in; it runs in by up to {:.0} mm: look at the scale, and at its dots.",
            SlashedBack::MOST_IN
        );
        return Err(Refusal::new(Draped::Back, &[Run::DrawnCentreDots.into()], says));
    }
    if let Some(out) = stands_in.into_iter().find(|by| *by < -hand.doubtful()) {
        let says = format!(
            "The drawn centre stands {:.0} mm out from the straight one: over a rounded back it runs in. Is the piece the right way round?",
            -out
        );
        notes.ask(Draped::Back, &[Run::DrawnCentreDots.into()], says);
    }
    Ok(SlashedBack {
        opens: tenth(opens),
        below_nape: tenth(below_nape),
        stands_in: stands_in.map(|by| tenth(by.max(0.0))),
        nape_in: tenth(nape.x),
        closes_at: closes_at(&gaps, hand, &mut notes),
        gaps: { gaps.iter() }
            .map(|gap| MarkedGap { from_centre: tenth(gap.from_centre), opens: tenth(gap.opens) })
            .collect(),
        furthest: line.furthest,
        drawn: line.places(),
        clicked: marks,
        asks: notes.asks,
        notes: notes.notes,
    })
}

/// A tenth of a millimetre is finer than any of it is known, and stays the same wherever it is shown.
fn tenth(mm: f64) -> f64 {
    (mm * 10.0).round() / 10.0
}

/// The straight centre upright at x = 0, the edge below the slash at y = 0, the side to the right.
fn in_frame(marks: &Marks, hand: &Hand, notes: &mut Notes) -> Result<Marks, Refusal> {
    let of_line: [Named; 2] = [Run::CentreDots.into(), Cross::CentreWaist.into()];
    let slash = marks.dots(Run::SlashLowerDots).first().copied().unwrap_or_default();
    let mut dots = vec![Dot { at: slash, sigma: hand.sigma(), named: Run::SlashLowerDots.into() }];
    dots.extend(dots_along(marks, &of_line, |named| hand.of(named)));
    let no_line = || {
        let says = "The straight centre has no length: click the first dot below the slash, and the waist at the centre.";
        Refusal::new(Draped::Back, &[Run::SlashLowerDots.into(), Cross::CentreWaist.into()], says.to_owned())
    };
    let centre = StraightLine::without_strays(&dots, hand.doubtful()).ok_or_else(no_line)?;
    ask_about_left_out(notes, (Draped::Back, "straight centre"), &dots, &centre.left_out, |at| {
        centre.distance(at)
    });
    let turn = Affine::rotate(std::f64::consts::FRAC_PI_2 - centre.along.atan2());
    let upright = Affine::translate(-(turn * centre.foot(slash)).to_vec2()) * turn;
    let outermost = marks.dots(Run::SlashLowerDots).last().map_or(0.0, |at| (upright * *at).x);
    let upright = if outermost < 0.0 { Affine::FLIP_X * upright } else { upright };
    if outermost < 0.0 {
        notes.notes.push("The back lay the other way round: it was mirrored.".to_owned());
    }
    Ok(marks.map(|at| upright * at))
}

/// How wide it gapes at each pair of marks.
fn gaps(marks: &Marks, hand: &Hand, notes: &mut Notes) -> Result<Vec<MarkedGap>, Refusal> {
    let edges = [Run::SlashUpperDots, Run::SlashLowerDots];
    let [upper, lower] = edges.map(|edge| marks.dots(edge));
    if upper.len() != lower.len() || upper.len() < 2 {
        let says = format!(
            "The edge above the slash has {} dots and the edge below it {}: mark both at the same places, at least at the centre and \
             further out.",
            upper.len(),
            lower.len()
        );
        return Err(Refusal::new(Draped::Back, &edges.map(Named::from), says));
    }
    for (edge, name) in edges.into_iter().zip(["edge above the slash", "edge below the slash"]) {
        let dots = dots_along(marks, &[edge.into()], |named| hand.of(named));
        // Of three the two others do not tell well enough where it should be.
        if dots.len() < 4 {
            continue;
        }
        if let Some(line) = StraightLine::without_strays(&dots, hand.doubtful()) {
            ask_about_left_out(notes, (Draped::Back, name), &dots, &line.left_out, |at| line.distance(at));
        }
    }
    let gap = |(upper, lower): (&Point, &Point)| MarkedGap { from_centre: lower.x, opens: lower.y - upper.y };
    Ok(upper.iter().zip(lower).map(gap).collect())
}

/// Where the slash closes: the line nearest to its gaps, carried on to nothing.
fn closes_at(gaps: &[MarkedGap], hand: &Hand, notes: &mut Notes) -> Option<f64> {
    let count = gaps.len() as f64;
    let (x, y) = gaps.iter().fold((0.0, 0.0), |sum, gap| (sum.0 + gap.from_centre, sum.1 + gap.opens));
    let (x, y) = (x / count, y / count);
    let spread: f64 = gaps.iter().map(|gap| (gap.from_centre - x).powi(2)).sum();
    let falls: f64 = -gaps.iter().map(|gap| (gap.from_centre - x) * (gap.opens - y)).sum::<f64>() / spread;
    let fallen = gaps.first()?.opens - gaps.last()?.opens;
    if fallen < hand.doubtful() || !falls.is_finite() || falls <= 0.0 {
        notes.notes.push(
            "The slash gapes about as wide at its outer marks as at the centre: where it closes is not known. A rounded back closes at \
             the armhole."
                .to_owned(),
        );
        return None;
    }
    Some(tenth(x + y / falls))
}

/// The drawn centre: how far in it stands, as a polynomial of the share of the way from the slash to the nape.
struct DrawnCentre {
    curve: Polynomial,
    /// From the slash up to the nape, in millimetres.
    height: f64,
    /// Its lowest dot, as a share of the way.
    lowest: f64,
    furthest: f64,
}

impl DrawnCentre {
    fn at(&self, share: f64) -> f64 {
        self.curve.at(share)
    }

    fn places(&self) -> Vec<Pt> {
        let from = self.lowest.min(0.0);
        let place = |n: u32| {
            let share = from + (1.0 - from) * f64::from(n) / f64::from(DRAWN);
            Pt::from(Point::new(self.at(share), -share * self.height))
        };
        (0..=DRAWN).map(place).collect()
    }
}

/// The smooth line nearest to the dots and the nape, without the one dot that spoils it.
fn drawn_centre(marks: &Marks, nape: Point, hand: &Hand, notes: &mut Notes) -> DrawnCentre {
    let height = -nape.y;
    let run: Named = Run::DrawnCentreDots.into();
    let mut dots = dots_along(marks, &[run], |named| hand.of(named));
    dots.push(Dot { at: nape, sigma: hand.of(Cross::CentreTop.into()), named: Cross::CentreTop.into() });
    let share = |dot: &Dot| -dot.at.y / height;
    let off = |curve: &Polynomial, dot: &Dot| (curve.at(share(dot)) - dot.at.x).abs();
    let without = |out: Option<usize>| -> Polynomial {
        let kept = dots.iter().enumerate().filter(|(index, _)| Some(*index) != out).map(|(_, dot)| dot);
        Polynomial::nearest(&kept.map(|dot| (share(dot), dot.at.x, dot.sigma)).collect::<Vec<_>>())
    };
    let mut curve = without(None);
    // The nape is a mark of its own: only a dot of the run is left out. Of few none can be told from the others.
    if dots.len() > 5 {
        // The one without which the others lie nearest to their own line.
        let badness = |out: usize| {
            let own = without(Some(out));
            let others = dots.iter().enumerate().filter(|(index, _)| *index != out);
            others.map(|(_, dot)| (off(&own, dot) / dot.sigma).powi(2)).sum::<f64>()
        };
        let tried = (0..dots.len() - 1).map(|out| (out, badness(out)));
        let worst = tried.min_by(|(_, one), (_, other)| one.total_cmp(other)).map_or(0, |(out, _)| out);
        let (others, dot) = (without(Some(worst)), dots[worst]);
        // At an end the line of the others is known less well.
        let known = (others.spread_at(share(&dot)) / dot.sigma).hypot(1.0);
        let far = off(&others, &dot);
        if far > FAR_OUT * hand.doubtful() * known {
            notes.ask_where(Draped::Back, &[run], far, "the line that the others make");
            curve = others;
            dots.remove(worst);
        }
    }
    let lowest = dots.iter().map(share).fold(f64::INFINITY, f64::min);
    if lowest > LOW_ENOUGH {
        notes.notes.push(
            "No dot of the drawn centre lies near the slash: how far in it stands there is carried on from the dots above."
                .to_owned(),
        );
    }
    let furthest = dots.iter().map(|dot| off(&curve, dot)).fold(0.0, f64::max);
    DrawnCentre { curve, height, lowest, furthest }
}

/// A curve through places of which each is known so exactly.
struct Polynomial {
    coefficients: DVector<f64>,
    /// How exactly the coefficients are known, in squares.
    known: DMatrix<f64>,
}

impl Polynomial {
    /// The curve nearest to places, each with its spread: of few places a parabola, which is steadier, of many a cubic.
    fn nearest(places: &[(f64, f64, f64)]) -> Self {
        let terms = if places.len() < MANY { places.len().min(3) } else { 4 };
        let powers = DMatrix::from_fn(places.len(), terms, |row, power| {
            let (share, _, sigma) = places[row];
            share.powi(power as i32) / sigma
        });
        let wanted = DVector::from_iterator(places.len(), places.iter().map(|(_, x, sigma)| x / sigma));
        let squared = powers.transpose() * &powers;
        // Places one above the other bear no more than a line upright through them.
        let known = squared.pseudo_inverse(1e-12).unwrap_or_else(|_| DMatrix::zeros(terms, terms));
        Self { coefficients: &known * powers.transpose() * wanted, known }
    }

    fn powers(&self, share: f64) -> DVector<f64> {
        DVector::from_fn(self.coefficients.len(), |power, _| share.powi(power as i32))
    }

    fn at(&self, share: f64) -> f64 {
        self.coefficients.dot(&self.powers(share))
    }

    /// How exactly it is known there.
    fn spread_at(&self, share: f64) -> f64 {
        let powers = self.powers(share);
        (&self.known * &powers).dot(&powers).max(0.0).sqrt()
    }
}

#[cfg(test)]
mod tests {
    use super::super::facts::{Given, Material};
    use super::*;

    /// A back cut 100 below the nape and opened by 16 about a hinge 180 from the centre; the centre drawn in as a parabola.
    fn slashed() -> Marks {
        let mut marks = Marks::default();
        let turn = Affine::rotate_about((16.0_f64 / 180.0).asin(), Point::new(180.0, 0.0));
        marks.put(Cross::CentreWaist, Point::new(0.0, 260.0));
        marks.put_dots(Run::CentreDots, [200.0, 120.0, 40.0].map(|y| Point::new(0.0, y)).to_vec());
        let along = [0.0, 60.0, 120.0].map(|x| Point::new(x, 0.0));
        marks.put_dots(Run::SlashLowerDots, along.to_vec());
        marks.put_dots(Run::SlashUpperDots, along.map(|at| turn * at).to_vec());
        let nape = turn * Point::new(0.0, -100.0);
        marks.put(Cross::CentreTop, nape);
        let height = -nape.y;
        let drawn = |share: f64| Point::new(nape.x * share * share, -height * share);
        marks.put_dots(Run::DrawnCentreDots, [0.0, 0.2, 0.4, 0.6, 0.8].map(drawn).to_vec());
        marks
    }

    fn told(marks: &Marks) -> Result<SlashedBack, Refusal> {
        let given = Given { material: Some(Material::Slashed), ..Given::default() };
        read(marks, &Hand::stated(&given, Material::Slashed), Notes::default())
    }

    /// By hand: the chord of the turn stands 16 up at the centre and 16·(1 − x/180) at x.
    #[test]
    fn it_is_read_as_it_was_cut_whichever_way_it_lay() {
        let lying = [
            Affine::IDENTITY,
            Affine::rotate(2.1) * Affine::translate((300.0, -80.0)),
            Affine::FLIP_X * Affine::rotate(-0.7),
        ];
        for (index, way) in lying.into_iter().enumerate() {
            let back = told(&slashed().map(|at| way * at)).unwrap();
            assert!((back.opens - 16.0).abs() < 0.06 && (back.below_nape - 100.0).abs() < 0.06, "{back:?}");
            assert!((back.closes_at.unwrap() - 180.0).abs() < 1.0, "{:?}", back.closes_at);
            assert!(back.asks.is_empty(), "{:?}", back.asks);
            assert_eq!(back.notes.len(), usize::from(index == 2), "{:?}", back.notes);
            for (share, by) in SlashedBack::READ_AT.into_iter().zip(back.stands_in) {
                assert!((by - back.nape_in * share * share).abs() < 0.1, "{share}: {by}");
            }
            assert!(back.furthest < 0.1);
            assert!((back.drawn.last().unwrap().x - back.nape_in).abs() < 0.2);
        }
    }

    #[test]
    fn a_dot_beside_the_drawn_line_is_asked_about_and_does_not_move_it() {
        let mut marks = slashed();
        let mut dots = marks.dots(Run::DrawnCentreDots).to_vec();
        dots[2].x += 14.0;
        marks.put_dots(Run::DrawnCentreDots, dots);
        let (spoilt, whole) = (told(&marks).unwrap(), told(&slashed()).unwrap());
        assert!(spoilt.asks[0].says.contains("drawn centre back"), "{:?}", spoilt.asks);
        for (one, other) in spoilt.stands_in.into_iter().zip(whole.stands_in) {
            assert!((one - other).abs() < 0.3, "{one} {other}");
        }
    }

    #[test]
    fn what_cannot_be_is_said_with_the_way_out() {
        let refused = |change: &dyn Fn(&mut Marks)| {
            let mut marks = slashed();
            change(&mut marks);
            told(&marks).unwrap_err().refuses
        };
        let exchanged = |marks: &mut Marks| {
            *marks = marks.exchanged(Run::SlashUpperDots.into(), Run::SlashLowerDots.into());
        };
        assert!(refused(&exchanged).contains("exchange the two edges"));
        let short = |marks: &mut Marks| {
            let two = marks.dots(Run::SlashUpperDots)[..2].to_vec();
            marks.put_dots(Run::SlashUpperDots, two);
        };
        assert!(refused(&short).contains("2 dots and the edge below it 3"));
        let none = |marks: &mut Marks| marks.put_dots(Run::DrawnCentreDots, Vec::new());
        assert!(refused(&none).contains("dots of the drawn centre back: click what is missing"));
        let one = |marks: &mut Marks| marks.put_dots(Run::DrawnCentreDots, vec![Point::new(0.0, -10.0)]);
        assert!(refused(&one).contains("has 1 dot: dot it at four places"));
        let far = |marks: &mut Marks| {
            let dots = marks.dots(Run::DrawnCentreDots).iter().map(|at| *at + kurbo::Vec2::new(75.0, 0.0));
            let dots = dots.collect();
            marks.put_dots(Run::DrawnCentreDots, dots);
        };
        assert!(refused(&far).contains("up to 60 mm"));
        let large = |marks: &mut Marks| *marks = marks.map(|at| Point::new(at.x * 3.0, at.y * 3.0));
        assert!(refused(&large).contains("look at the scale"));
        let level = |marks: &mut Marks| {
            let dots = marks.dots(Run::SlashLowerDots).iter().map(|at| *at - kurbo::Vec2::new(0.0, 12.0));
            let dots = dots.collect();
            marks.put_dots(Run::SlashUpperDots, dots);
        };
        let mut marks = slashed();
        level(&mut marks);
        assert!(told(&marks).unwrap().notes[0].contains("where it closes is not known"));
    }
}
