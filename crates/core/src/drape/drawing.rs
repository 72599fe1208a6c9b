//! The finished piece: lines cut where a dart's leg crosses them, and the outer part turned back, so that both legs have one
//! length and the folded cap lies on the seam (drape.md, section 6).

use kurbo::{Affine, Line, Point};

use super::darts::ShapedDart;
use super::marks::{Cross, DartMarks};
use super::path_file::Outline;
use super::report::{Draped, Refusal};
use super::shape::{Closed, ClosedSeam, Cloth, Curves};
use crate::geometry::Curve;
use crate::pattern::{Dart, DartPlace, Edge, Level, LevelName, Notch, Piece, Seam, back_off_points};

/// The side's notch above the waist, in millimetres.
const NOTCH_ABOVE_WAIST: f64 = 70.0;
/// The armhole's notch: this share of it from the underarm.
const ARMHOLE_NOTCH: f64 = 1.0 / 3.0;
/// The grain line: this share of the pivot's distance from the centre, so far below the neck and above the waist.
const GRAIN_OUT: f64 = 0.42;
const GRAIN_FROM_EDGE: f64 = 45.0;
/// Where there is no waist dart the grain lies as beside one here, in millimetres from the centre.
const USUAL_PIVOT_OUT: f64 = 95.0;

/// A seam with its dart cut in: the parts of it, each as the flat piece has them.
struct CutSeam {
    inner: Curve,
    /// Mouth ends, and the part beyond the dart; none without a dart.
    outer: Option<(Point, Point, Curve)>,
}

impl Cloth<'_> {
    /// A line drawn with its dart closed, cut where the dart's inner leg crosses it. The line runs from the leg's own side on;
    /// `back` takes either part from where it is drawn to where it lies flat.
    fn cut(
        &self,
        seam: &Curve,
        dart: Option<&ShapedDart>,
        drawn: Affine,
        back: [Affine; 2],
    ) -> Result<CutSeam, Refusal> {
        let Some(dart) = dart else {
            return Ok(CutSeam { inner: seam.transformed(back[0]), outer: None });
        };
        let pivot = drawn * dart.pivot;
        let leg = drawn * (dart.pivot + dart.inner * 2000.0);
        let Some(at) = seam.crossing(Line::new(pivot, leg)) else {
            let says = format!(
                "The {} of the {} does not reach its seam: look at its legs and at the bust point.",
                dart.place.name(),
                self.piece.name()
            );
            let marks = DartMarks::ALL.iter().filter(|marks| marks.place == dart.place);
            let marks: Vec<_> = marks.flat_map(|marks| marks.mouth).map(Into::into).collect();
            return Err(Refusal::new(self.piece, &marks, says));
        };
        let (inner, outer) = seam.split(at);
        let (inner, outer) = (inner.transformed(back[0]), outer.transformed(back[1]));
        let mouth = (inner.end(), outer.start());
        Ok(CutSeam { inner, outer: Some((mouth.0, mouth.1, outer)) })
    }

    /// The flat piece of settled lines.
    pub(super) fn draw_piece(&self, closed: &Closed, curves: Curves) -> Result<Piece, Refusal> {
        let still = Affine::IDENTITY;
        let flat = self.to_closed().inverse();
        let shoulder_dart = self.dart(DartPlace::Shoulder);
        let shoulder = closed.joins.shoulder.curve();
        let unfold = shoulder_dart.map_or(still, |dart| dart.closing().inverse());
        let shoulder = self.cut(&shoulder, shoulder_dart, still, [still, unfold])?;
        let side_dart = self.dart(DartPlace::Side);
        let side = closed.joins.side.curve();
        let below = self.to_closed_below().inverse();
        let side = self.cut(
            &side,
            side_dart,
            self.to_closed(),
            [if side_dart.is_some() { flat } else { below }, below],
        )?;
        let waist_dart = self.dart(DartPlace::Waist);
        let unfold = self.to_waist().inverse();
        let waist = self.cut(&curves.waist, waist_dart, still, [still, unfold])?;
        let armhole = curves.armhole.transformed(flat).then(curves.lower_armhole.transformed(flat));

        let mut edges = vec![Edge::sewn(Seam::Neckline, curves.neckline)];
        let along =
            |edges: &mut Vec<Edge>, seam: Seam, cut: CutSeam, place: DartPlace, pivot: Option<Point>| {
                edges.push(Edge::sewn(seam, cut.inner));
                if let (Some((first, second, outer)), Some(pivot)) = (cut.outer, pivot) {
                    edges.extend([Edge::leg(place, first, pivot), Edge::leg(place, pivot, second)]);
                    edges.push(Edge::sewn(seam, outer));
                }
            };
        let pivot = |dart: Option<&ShapedDart>| dart.map(|dart| dart.pivot);
        along(&mut edges, Seam::Shoulder, shoulder, DartPlace::Shoulder, pivot(shoulder_dart));
        edges.push(Edge::sewn(Seam::Armhole, armhole));
        along(&mut edges, Seam::Side, side, DartPlace::Side, pivot(side_dart));
        // The waist is drawn from the centre out; the outline comes to it from the side.
        if let (Some((inner, outer, beyond)), Some(pivot)) = (waist.outer, pivot(waist_dart)) {
            edges.push(Edge::sewn(Seam::Waist, beyond.reversed()));
            edges.extend([
                Edge::leg(DartPlace::Waist, outer, pivot),
                Edge::leg(DartPlace::Waist, pivot, inner),
            ]);
        }
        edges.push(Edge::sewn(Seam::Waist, waist.inner.reversed()));
        let (pit, centre_waist) = (Point::new(0.0, closed.pit), Point::new(0.0, closed.waist));
        edges.push(Edge::on_fold(self.piece.kind().centre(), Curve::line(centre_waist, pit)));
        Ok(self.marked(joined(edges), (closed.pit, closed.waist)))
    }

    /// The piece with its darts, levels, notches and grain.
    fn marked(&self, edges: Vec<Edge>, (pit, waist): (f64, f64)) -> Piece {
        let out =
            self.dart(DartPlace::Waist).or(self.darts.first()).map_or(USUAL_PIVOT_OUT, |dart| dart.pivot.x);
        let grain = GRAIN_OUT * out;
        let grain = (Point::new(grain, pit + GRAIN_FROM_EDGE), Point::new(grain, waist - GRAIN_FROM_EDGE));
        // Where its legs meet: a file may give each dart a pivot of its own.
        let apex = |place: DartPlace| {
            let leg = edges.iter().find(|edge| edge.dart == Some(place));
            leg.map(|edge| edge.curve.end())
        };
        let darts = self.darts.iter().filter_map(|dart| {
            let pivot = apex(dart.place)?;
            Some(Dart { place: dart.place, pivot, point: pivot })
        });
        let darts: Vec<Dart> = darts.collect();
        let mut piece = Piece { darts, ..Piece::bare(self.piece.kind(), edges, grain) };
        back_off_points(&mut piece);
        let notch = |seam, from_underarm, double| Notch { seam, from_underarm, double };
        let is_back = self.piece == Draped::Back;
        piece.notches = vec![
            notch(Seam::Armhole, piece.sewn_length(Seam::Armhole) * ARMHOLE_NOTCH, is_back),
            notch(Seam::Side, piece.sewn_length(Seam::Side) - NOTCH_ABOVE_WAIST, false),
        ];
        piece
    }
}

/// Each edge begins exactly where the one before ends.
fn joined(mut edges: Vec<Edge>) -> Vec<Edge> {
    for index in 0..edges.len() {
        let before = edges[(index + edges.len() - 1) % edges.len()].curve.end();
        edges[index].curve = edges[index].curve.clone().with_start(before);
    }
    edges
}

/// The bust level of both pieces: of the front at the height of its pivot, dart closed; of the back as far down its side.
pub(super) fn bust_levels(cloth: &[Cloth<'_>; 2], sides: [ClosedSeam; 2], pieces: &mut [Piece; 2]) {
    let [front, back] = sides;
    let Some(pivot) =
        cloth[0].darts.first().map(|dart| dart.pivot).or_else(|| cloth[0].marks.get(Cross::BustPoint))
    else {
        return;
    };
    let along = front.along();
    let down = ((pivot.y - front.from.y) / along.y).clamp(0.0, front.length());
    // Above a side dart it lies on the upper part; a dart right there is the level.
    let mouth = pieces[0].mouth(DartPlace::Side);
    let to_mouth = mouth.map(|(upper, _)| (cloth[0].to_closed() * upper).distance(front.from));
    let down = to_mouth.map_or(down, |to_mouth| down.min(to_mouth));
    let at_side = match mouth {
        Some((upper, _)) if to_mouth.is_some_and(|to_mouth| down >= to_mouth) => upper,
        _ => cloth[0].to_closed().inverse() * (front.from + along * down),
    };
    let centre = Point::new(0.0, pivot.y);
    pieces[0].levels = vec![Level { name: LevelName::Bust, points: vec![centre, pivot, at_side] }];
    let at_side = back.from + back.along() * down.min(back.length());
    let centre = Point::new(0.0, at_side.y);
    pieces[1].levels = vec![Level { name: LevelName::Bust, points: vec![centre, at_side] }];
}

/// The piece of a path whose outline stands as it is drawn.
pub(super) fn outline_piece(cloth: &Cloth<'_>, outline: &Outline) -> Result<Piece, Refusal> {
    use Cross::{
        CentreTop, CentreWaist, NeckSide, ShoulderDartIn, ShoulderDartOut, SideDartLower, SideDartUpper,
        SideWaist, Tip, Underarm, WaistDartIn, WaistDartOut,
    };
    let stretch = |seam: Seam, from: Cross, to: Cross| {
        let curve = outline.between(from, to).ok_or_else(|| {
            let says = format!(
                "The outline of the {} has no line between the {} and the {}.",
                cloth.piece.name(),
                from.name(),
                to.name()
            );
            Refusal::new(cloth.piece, &[from.into(), to.into()], says)
        })?;
        Ok(Edge::sewn(seam, curve))
    };
    let mut edges = vec![stretch(Seam::Neckline, CentreTop, NeckSide)?];
    let seam =
        |edges: &mut Vec<Edge>, seam: Seam, place: DartPlace, marks: [Cross; 4]| -> Result<(), Refusal> {
            let [from, first, second, to] = marks;
            let apex =
                DartMarks::ALL.iter().find(|dart| dart.place == place).and_then(|dart| outline.apex(dart));
            let Some(apex) = apex.filter(|_| cloth.dart(place).is_some()) else {
                edges.push(stretch(seam, from, to)?);
                return Ok(());
            };
            let (before, after) = (stretch(seam, from, first)?, stretch(seam, second, to)?);
            let (mouth, other) = (before.curve.end(), after.curve.start());
            edges.push(before);
            edges.extend([Edge::leg(place, mouth, apex), Edge::leg(place, apex, other)]);
            edges.push(after);
            Ok(())
        };
    seam(&mut edges, Seam::Shoulder, DartPlace::Shoulder, [NeckSide, ShoulderDartIn, ShoulderDartOut, Tip])?;
    edges.push(stretch(Seam::Armhole, Tip, Underarm)?);
    seam(&mut edges, Seam::Side, DartPlace::Side, [Underarm, SideDartUpper, SideDartLower, SideWaist])?;
    seam(&mut edges, Seam::Waist, DartPlace::Waist, [SideWaist, WaistDartOut, WaistDartIn, CentreWaist])?;
    let centre = stretch(cloth.piece.kind().centre(), CentreWaist, CentreTop)?;
    let (waist, pit) = (centre.curve.start(), centre.curve.end());
    edges.push(Edge::on_fold(centre.seam, Curve::line(waist, pit)));
    Ok(cloth.marked(joined(edges), (pit.y, waist.y)))
}
