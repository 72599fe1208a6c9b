//! The piece in its own frame: the centre line upright at x = 0, the neck side at y = 0, the side to the right, and the cloth
//! square again where it was pulled askew.

use kurbo::{Affine, Point, Vec2};

use super::facts::Hand;
use super::marks::{Cross, Marks, Named, Run};
use super::report::{Correction, DrapeUnit, Draped, LineFit, Notes, Refusal};
use super::straight::{Dot, StraightLine};

/// Cloth is off square by so much as a rule, in radians (drape.md, section 4).
const USUAL_SKEW: f64 = 0.86 / 180.0 * std::f64::consts::PI;
/// More than this and the threads were not seen for what they are, in degrees.
const MOST_SKEW: f64 = 3.0;
/// From here on it is listed, in degrees.
const LISTED_SKEW: f64 = 0.3;

/// A piece in its own frame.
#[derive(Clone, Debug)]
pub(super) struct Framed {
    pub(super) marks: Marks,
    /// From the place where the piece lay to its own frame.
    pub(super) to_frame: ToFrame,
}

/// What took a piece to its own frame.
#[derive(Clone, Copy, Debug)]
pub(super) struct ToFrame {
    upright: Affine,
    /// How far the crosswise thread was off level, in radians, as it was taken back.
    skew: f64,
    /// What brings the neck side to y = 0 after that, in millimetres.
    lift: f64,
}

impl ToFrame {
    /// Where a point of the cloth comes to lie.
    pub(super) fn of(&self, point: Point) -> Point {
        let at = self.upright * point;
        // Threads keep their lengths: (x, y) of square cloth lay at (x cos δ, y + x sin δ).
        Point::new(at.x / self.skew.cos(), at.y - at.x * self.skew.tan() + self.lift)
    }
}

/// The dots that a line is drawn through: marks at its ends, dots between them.
pub(super) fn dots_along(marks: &Marks, names: &[Named], sigma: impl Fn(Named) -> f64) -> Vec<Dot> {
    let mut dots = Vec::new();
    for &named in names {
        let dot = |at: Point| Dot { at, sigma: sigma(named), named };
        match named {
            Named::Cross(mark) => dots.extend(marks.get(mark).map(dot)),
            Named::Run(run) => dots.extend(marks.dots(run).iter().map(|at| dot(*at))),
        }
    }
    dots
}

/// Asks about every dot that a line was drawn without: a first or last one together with the mark at that end.
pub(super) fn ask_about_left_out(
    notes: &mut Notes,
    (piece, line): (Draped, &str),
    dots: &[Dot],
    left_out: &[usize],
    off: impl Fn(Point) -> f64,
) {
    for &out in left_out {
        let dot = dots[out];
        let mut named = vec![dot.named];
        if let Named::Run(run) = dot.named {
            let beside = |index: Option<usize>| index.and_then(|index| dots.get(index)).map(|dot| dot.named);
            let ends = [beside(out.checked_sub(1)), beside(out.checked_add(1))];
            named.extend(ends.into_iter().flatten().filter(|other| *other != Named::from(run)));
        }
        notes.ask_where(piece, &named, off(dot.at), &format!("the {line} that the others make"));
    }
}

/// The report of a straight line.
pub(super) fn line_fit(
    piece: Draped,
    seam: crate::pattern::Seam,
    line: &'static str,
    off: &[f64],
    left_out: usize,
) -> LineFit {
    let count = off.len();
    let squares: f64 = off.iter().map(|off| off * off).sum();
    LineFit {
        piece,
        seam,
        line,
        max: off.iter().copied().fold(0.0, f64::max),
        rms: if count == 0 { 0.0 } else { (squares / count as f64).sqrt() },
        dots: count,
        left_out,
    }
}

/// Brings a piece to its own frame.
pub(super) fn frame(piece: Draped, marks: &Marks, hand: &Hand, notes: &mut Notes) -> Result<Framed, Refusal> {
    let names = [Cross::CentreTop.into(), Run::CentreDots.into(), Cross::CentreWaist.into()];
    let dots = dots_along(marks, &names, |named| hand.of(named));
    let no_line = || {
        let says = format!("The centre of the {} has no length: click its top and its waist.", piece.name());
        Refusal::new(piece, &[Cross::CentreTop.into(), Cross::CentreWaist.into()], says)
    };
    let centre = StraightLine::without_strays(&dots, hand.doubtful()).ok_or_else(no_line)?;
    ask_about_left_out(notes, (piece, "centre line"), &dots, &centre.left_out, |at| centre.distance(at));
    let seam = piece.kind().centre();
    notes.lines.push(line_fit(piece, seam, "centre", &centre.off, centre.left_out.len()));

    // The centre's direction becomes straight down.
    let turn = Affine::rotate(-(centre.along.atan2() - std::f64::consts::FRAC_PI_2));
    let upright = Affine::translate(-(turn * centre.through).to_vec2()) * turn;
    let at_side = [Cross::Tip, Cross::Underarm, Cross::SideWaist];
    let on_left =
        at_side.into_iter().filter(|mark| marks.get(*mark).is_some_and(|at| (upright * at).x < 0.0)).count();
    let is_mirrored = on_left * 2 > at_side.len();
    let upright = if is_mirrored { Affine::FLIP_X * upright } else { upright };
    if is_mirrored {
        notes.notes.push(format!("The {} lay the other way round: it was mirrored.", piece.name()));
    }
    let mut to_frame = ToFrame { upright, skew: 0.0, lift: 0.0 };
    to_frame.skew = skew(piece, &marks.map(|at| to_frame.of(at)), hand, centre.lean_error, notes)?;
    let neck = marks.get(Cross::NeckSide).map_or(0.0, |at| to_frame.of(at).y);
    to_frame.lift = -neck;
    straightened(piece, marks, &to_frame, notes);
    Ok(Framed { marks: marks.map(|at| to_frame.of(at)), to_frame })
}

/// How far the ends of the centre were moved to make it straight.
fn straightened(piece: Draped, marks: &Marks, to_frame: &ToFrame, notes: &mut Notes) {
    for mark in [Cross::CentreTop, Cross::CentreWaist] {
        let Some(at) = marks.get(mark).map(|at| to_frame.of(at)) else { continue };
        let on_line = Point::new(0.0, at.y);
        let what = format!("{}: drawn onto the straight centre", mark.name());
        let correction = Correction::new(piece, what, (at.x, 0.0), DrapeUnit::Mm);
        notes.corrections.push(correction.moved(at, on_line).of(&[mark.into(), Run::CentreDots.into()]));
    }
}

/// How far the crosswise thread is off level, as it is to be taken back, in radians.
fn skew(
    piece: Draped,
    marks: &Marks,
    hand: &Hand,
    centre_error: f64,
    notes: &mut Notes,
) -> Result<f64, Refusal> {
    if hand.is_paper() {
        return Ok(0.0);
    }
    let names = [Run::LevelDots.into()];
    let dots = dots_along(marks, &names, |named| hand.of(named));
    if dots.len() < 2 {
        notes.notes.push(format!(
            "No dots on the level thread of the {}: whether the cloth was pulled askew is not known.",
            piece.name()
        ));
        return Ok(0.0);
    }
    let no_line = || {
        let says = format!(
            "The level thread of the {} has no length: click its dots from the centre outwards.",
            piece.name()
        );
        Refusal::new(piece, &names, says)
    };
    let level = StraightLine::without_strays(&dots, hand.doubtful()).ok_or_else(no_line)?;
    ask_about_left_out(notes, (piece, "level thread"), &dots, &level.left_out, |at| level.distance(at));
    let along = if level.along.x < 0.0 { -level.along } else { level.along };
    let lean = Vec2::new(1.0, 0.0).cross(along).atan2(along.x);
    if lean.to_degrees().abs() > MOST_SKEW {
        let says = format!(
            "The level thread of the {} leans {:.1}\u{b0} to the centre: over {MOST_SKEW:.0}\u{b0} no cloth is pulled. Click the dots \
             on the thread again, or press the toile square.",
            piece.name(),
            lean.to_degrees().abs()
        );
        return Err(Refusal::new(piece, &names, says));
    }
    let doubt = level.lean_error.powi(2) + centre_error.powi(2);
    let taken = lean * USUAL_SKEW.powi(2) / (USUAL_SKEW.powi(2) + doubt);
    if lean.to_degrees().abs() > LISTED_SKEW {
        let what = "cloth pulled askew: brought square again".to_owned();
        let degrees = (lean.to_degrees(), (lean - taken).to_degrees());
        notes.corrections.push(Correction::new(piece, what, degrees, DrapeUnit::Degrees).of(&names));
    }
    Ok(taken)
}
