//! The figure: a neutral standing outline whose proportions follow the client's own readings.
//!
//! Millimetres; y down from the crown. From the front and from behind x runs from the middle (her left on the
//! viewer's right), from the side towards her front. It is a picture to point at, not a body scan: widths and depths
//! are taken from girths as if sections were alike, and what is not measured is estimated.

mod line;
mod profile;
mod stance;
mod upright;

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::{Body, Tape, View};
use crate::geometry::{Pt, ViewBox};
use line::{arc, spline};
use stance::Stance;

/// Where the upper figure ends, below the hip.
const BELOW_HIP: f64 = 150.0;
/// Air round the figure.
const MARGIN: f64 = 14.0;

/// How much of the figure is shown.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Frame {
    /// Crown to below the hip.
    Upper,
    /// Crown to floor.
    Whole,
}

/// The figure from one side.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BodyDrawing {
    /// Seen from.
    pub view: View,
    /// What the whole figure fills.
    pub bounds: ViewBox,
    /// What its upper part fills.
    pub upper: ViewBox,
    /// The body's outline parts, filled, in the order of drawing.
    pub body: Vec<String>,
    /// Fine inner lines.
    pub lines: Vec<String>,
}

/// A tape on the figure.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tapeline {
    /// Seen from.
    pub view: View,
    /// How much of the figure shows it.
    pub frame: Frame,
    /// The tape.
    pub path: String,
    /// Where it touches landmarks.
    pub points: Vec<Pt>,
    /// The landmarks' names.
    pub names: Vec<String>,
}

/// The figure of a body from one side.
pub fn draw_body(view: View, body: &Body) -> BodyDrawing {
    let s = Stance::of(body);
    let (parts, lines, (left, right)) = match view {
        View::Front => upright::front(&s),
        View::Back => upright::back(&s),
        View::Side => profile::side(&s),
    };
    let frame = |bottom: f64| ViewBox {
        x: left - MARGIN,
        y: -MARGIN,
        width: right - left + 2.0 * MARGIN,
        height: bottom + 2.0 * MARGIN,
    };
    BodyDrawing {
        view,
        bounds: frame(s.floor),
        upper: frame(s.hip.y + BELOW_HIP - 2.0 * MARGIN),
        body: parts,
        lines,
    }
}

/// A tape laid on the figure of a body. `None` where it names a landmark the figure lacks.
pub fn draw_tape(tape: &Tape, body: &Body) -> Option<Tapeline> {
    let s = Stance::of(body);
    let place = |name: &str| match tape.view {
        View::Side => s.profile_landmark(name),
        View::Front | View::Back => s.landmark(name),
    };
    let (path, points) = if let Some(level) = &tape.level {
        let y = place(level)?.y;
        let x = s.half_width(y) + 2.0;
        let ends = vec![Point::new(-x, y), Point::new(x, y)];
        // A level tape is seen a little from above: it sags in front, and rises behind.
        let sag = if tape.view == View::Back { -22.0 } else { 30.0 };
        (arc((-x, y), (0.0, y + sag), (x, y)), ends)
    } else if let [from, to] = tape.round.as_slice() {
        let (from, to) = (place(from)?, place(to)?);
        let across = to - from;
        let sag = kurbo::Vec2::new(-across.y, across.x) * 0.16;
        let middle = from.midpoint(to) + if sag.y < 0.0 { -sag } else { sag };
        (arc((from.x, from.y), (middle.x, middle.y), (to.x, to.y)), vec![from, to])
    } else {
        let points: Option<Vec<Point>> = tape.through.iter().map(|name| place(name)).collect();
        let points = points?;
        (spline(&points, false).to_svg(), points)
    };
    let lowest = points.iter().map(|p| p.y).fold(0.0, f64::max);
    Some(Tapeline {
        view: tape.view,
        frame: if lowest > s.hip.y + BELOW_HIP - 60.0 { Frame::Whole } else { Frame::Upper },
        path,
        names: tape.landmarks().map(landmark_name).collect(),
        points: points.into_iter().map(Pt::from).collect(),
    })
}

fn landmark_name(landmark: &str) -> String {
    let plain = ["_other", "_centre", "_side", "_seen", "_behind", "_point"]
        .into_iter()
        .fold(landmark, |name, end| name.strip_suffix(end).unwrap_or(name));
    match plain {
        "neck" => "neck side".to_owned(),
        "bust" => "bust point".to_owned(),
        plain => plain.replace('_', " "),
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::body::{catalogue, measurement};

    #[test]
    fn every_tape_in_the_catalogue_can_be_drawn_and_lies_on_the_figure() {
        for row in catalogue() {
            let tape = draw_tape(&row.tape, &Body::default())
                .unwrap_or_else(|| panic!("{} names a landmark the figure lacks: {:?}", row.code, row.tape));
            let bounds = draw_body(row.tape.view, &Body::default()).bounds;
            for p in &tape.points {
                assert!((bounds.x..bounds.x + bounds.width).contains(&p.x), "{} {p:?} {bounds:?}", row.code);
                assert!((bounds.y..bounds.y + bounds.height).contains(&p.y), "{} {p:?} {bounds:?}", row.code);
            }
        }
    }

    #[test]
    fn a_wider_body_is_drawn_wider_and_deeper() {
        let width = |bust: f64, view| {
            let body = Body::default().with("bust_girth", bust);
            let tape = Tape { view, level: None, through: vec!["bust_point".into()], round: Vec::new() };
            match view {
                View::Side => draw_tape(&tape, &body).unwrap().points[0].x,
                _ => draw_tape(&measurement("bust_girth").unwrap().tape, &body).unwrap().points[1].x,
            }
        };
        assert!(width(1200.0, View::Front) > width(850.0, View::Front) + 40.0);
        assert!(width(1200.0, View::Side) > width(850.0, View::Side) + 20.0);
    }

    #[test]
    fn a_reading_that_cannot_be_draws_no_spike() {
        let sound = draw_body(View::Front, &Body::default());
        for (code, mm) in [("waist_girth", 9144.0), ("bust_girth", 94.0), ("shoulder_width", 3000.0)] {
            let drawn = draw_body(View::Front, &Body::default().with(code, mm));
            assert_eq!(drawn.body, sound.body, "{code} {mm}");
        }
    }

    #[test]
    fn longer_legs_stand_on_a_lower_floor() {
        let body = Body::default().with("height", 1650.0);
        let floor = |mm| draw_body(View::Side, &body.clone().with("waist_to_floor", mm)).bounds.height;
        assert!((floor(1120.0) - floor(1000.0) - 120.0).abs() < 1e-6);
    }

    #[test]
    fn names_are_words_for_a_person() {
        assert_eq!(landmark_name("neck_side_other"), "neck side");
        assert_eq!(landmark_name("waist_at_bust_point"), "waist at bust");
        assert_eq!(landmark_name("bust_point"), "bust point");
        assert_eq!(landmark_name("nape_seen"), "nape");
    }
}
