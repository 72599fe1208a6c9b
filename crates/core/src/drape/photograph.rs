//! From a photograph to the plane the toile lies in: the camera is found from sheets of known size (drape.md, section 3).
//!
//! Square pixels, the lens's middle in the middle of the picture, one radial term. The first sheet is the plane's frame; each
//! further one lies somewhere on it, turned somehow. Levenberg and Marquardt from the four-point linear solution.

use kurbo::{Point, Vec2};
use nalgebra::{DMatrix, DVector, Matrix3, Rotation3, SMatrix, SVector, Vector2, Vector3};
use serde::{Deserialize, Serialize};

use super::marks::{Cross, Marks, Named, Run};
use super::report::{CameraFound, Draped, Notes, Refusal};
use crate::geometry::turn_degrees;

/// A sheet of known size, as it is seen.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Sheet {
    /// One side, in millimetres.
    pub width: f64,
    /// The other.
    pub height: f64,
    /// Its corners in order round it, in pixels, beginning with any of them.
    pub corners_px: [[f64; 2]; 4],
}

/// A length that was measured across the toile by tape.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KnownLength {
    /// Between these marks.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub marks: Option<[Cross; 2]>,
    /// Or between these places, in pixels.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub px: Option<[[f64; 2]; 2]>,
    /// As measured, in millimetres.
    pub mm: f64,
}

/// What is known of a photograph.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Photograph {
    /// Width and height, in pixels.
    pub size_px: [u32; 2],
    /// Focal length in pixels, where it is stated.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub focal_px: Option<f64>,
    /// Sheets of known size, or one rectangle round the toile.
    pub sheets: Vec<Sheet>,
    /// A length across it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub known_length: Option<KnownLength>,
}

/// A click is this exact, in pixels.
pub(super) const CLICK_PX: f64 = 1.5;
/// A focal length that is not stated: this share of the picture's long side.
const USUAL_FOCAL: f64 = 0.72;
/// Spread of the logarithm of a focal length: stated, and not.
const FOCAL_SPREAD: (f64, f64) = (0.05, 0.15);
/// Spread of the lens's radial term.
const RADIAL_SPREAD: f64 = 0.02;
/// A radial term beyond this is doubted: the lens was wide, or zoomed.
const RADIAL_DOUBT: f64 = 0.05;
/// A known length is this many clicks exact.
const LENGTH_CLICKS: f64 = 1.4;
/// Corners may be missed by so many pixels, root of the mean square.
const MOST_RMS_PX: f64 = 4.0;
/// A known length may be off by this share: with two sheets or a rectangle, and with one sheet.
const SCALE_OFF: (f64, f64) = (0.012, 0.03);
/// A sheet that fills this share of the picture goes round the toile.
const ROUND_THE_TOILE: f64 = 0.25;
/// A mark further than this share of the picture's diagonal from its middle is doubted.
const FAR_OUT: f64 = 0.45;
/// Asked for: a camera no further from straight above, in degrees; from the second on it is asked about.
const TILT: (f64, f64) = (20.0, 28.0);
/// The sizes of a sheet that are believed, in millimetres.
const SHEET_MM: std::ops::RangeInclusive<f64> = 50.0..=3000.0;
/// At most so many sheets.
pub const MOST_SHEETS: usize = 4;
/// The smallest and largest picture that is worked with, in pixels a side.
const PICTURE_PX: std::ops::RangeInclusive<u32> = 200..=20_000;
/// How exactly a dot lies on a ruled line, in millimetres.
const RULED: f64 = 0.6;
/// So many rounds at most.
const ROUNDS: u32 = 60;

/// A camera over the plane.
#[derive(Clone, Debug)]
struct Camera {
    f: f64,
    k1: f64,
    turn: Vector3<f64>,
    shift: Vector3<f64>,
    /// Middle of the picture, in pixels.
    middle: Vector2<f64>,
    /// Places and turns of the further sheets on the plane: x, y in millimetres, radians.
    further: Vec<[f64; 3]>,
}

impl Camera {
    fn rotation(&self) -> Matrix3<f64> {
        *Rotation3::new(self.turn).matrix()
    }

    /// Where a place of the plane is seen. `None` behind the camera.
    fn seen(&self, rotation: &Matrix3<f64>, at: Vector2<f64>) -> Option<Vector2<f64>> {
        let from = rotation * Vector3::new(at.x, at.y, 0.0) + self.shift;
        if from.z <= 1.0 {
            return None;
        }
        let u = Vector2::new(from.x / from.z, from.y / from.z);
        Some(self.middle + u * (self.f * (1.0 + self.k1 * u.norm_squared())))
    }

    /// The place of the plane that is seen at a pixel. `None` above the horizon.
    fn place(&self, rotation: &Matrix3<f64>, pixel: Vector2<f64>) -> Option<Vector2<f64>> {
        let bent = (pixel - self.middle) / self.f;
        let radius = bent.norm();
        // r (1 + k r²) = the radius seen: Newton from there.
        let mut r = radius;
        for _ in 0..20 {
            let slope = 1.0 + 3.0 * self.k1 * r * r;
            if slope < 0.05 {
                return None;
            }
            let step = (r * (1.0 + self.k1 * r * r) - radius) / slope;
            r -= step;
            if step.abs() < 1e-14 {
                break;
            }
        }
        let u = if radius > 0.0 { bent * (r / radius) } else { bent };
        let onto = Matrix3::from_columns(&[rotation.column(0).into(), rotation.column(1).into(), self.shift]);
        let at = onto.try_inverse()? * Vector3::new(u.x, u.y, 1.0);
        // The third is one over the depth of the place along the ray.
        (at.z > 1e-9).then(|| Vector2::new(at.x / at.z, at.y / at.z))
    }

    /// As the numbers that are looked for.
    fn numbers(&self) -> DVector<f64> {
        let own = [self.f.ln(), self.k1];
        let pose = self.turn.iter().chain(self.shift.iter()).copied();
        let further = self.further.iter().flatten().copied();
        DVector::from_iterator(8 + 3 * self.further.len(), own.into_iter().chain(pose).chain(further))
    }

    fn with(&self, numbers: &DVector<f64>) -> Self {
        let further = |index: usize| {
            let from = 8 + 3 * index;
            [numbers[from], numbers[from + 1], numbers[from + 2]]
        };
        Self {
            f: numbers[0].exp(),
            k1: numbers[1],
            turn: Vector3::new(numbers[2], numbers[3], numbers[4]),
            shift: Vector3::new(numbers[5], numbers[6], numbers[7]),
            middle: self.middle,
            further: (0..self.further.len()).map(further).collect(),
        }
    }
}

/// The corners of a sheet where it lies: the first on the plane's own axes, the others somewhere.
fn corners_on_plane(sheet: &Oriented, place: Option<&[f64; 3]>) -> [Vector2<f64>; 4] {
    let (w, h) = sheet.size;
    let own = [(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)].map(|(x, y)| Vector2::new(x, y));
    let Some([x, y, turn]) = place else { return own };
    let (sin, cos) = turn.sin_cos();
    own.map(|at| Vector2::new(x + at.x * cos - at.y * sin, y + at.x * sin + at.y * cos))
}

/// A sheet with its corners clockwise to the eye, and its size in their order.
#[derive(Clone, Debug)]
struct Oriented {
    size: (f64, f64),
    corners: [Vector2<f64>; 4],
}

/// What is solved: what must be met, and how nearly.
struct Problem<'a> {
    sheets: Vec<Oriented>,
    focal: f64,
    focal_spread: f64,
    /// The dots of the ruled centre, in pixels.
    ruled: &'a [Point],
    /// A known length that takes part: both ends in pixels, and millimetres.
    length: Option<([Vector2<f64>; 2], f64)>,
    /// What a pixel is on the plane, in millimetres.
    mm_per_px: f64,
}

impl Problem<'_> {
    fn residuals(&self, camera: &Camera) -> Option<DVector<f64>> {
        let rotation = camera.rotation();
        let mut off = Vec::with_capacity(24);
        for (index, sheet) in self.sheets.iter().enumerate() {
            let place = index.checked_sub(1).map(|index| &camera.further[index]);
            for (at, seen) in corners_on_plane(sheet, place).into_iter().zip(sheet.corners) {
                let by = camera.seen(&rotation, at)? - seen;
                off.extend([by.x / CLICK_PX, by.y / CLICK_PX]);
            }
        }
        off.push((camera.f / self.focal).ln() / self.focal_spread);
        off.push(camera.k1 / RADIAL_SPREAD);
        let click = CLICK_PX * self.mm_per_px;
        if self.ruled.len() > 2 {
            let dots: Option<Vec<Vector2<f64>>> =
                self.ruled.iter().map(|dot| camera.place(&rotation, Vector2::new(dot.x, dot.y))).collect();
            off.extend(off_straight(&dots?).map(|mm| mm / click.hypot(RULED)));
        }
        if let Some(([one, other], mm)) = self.length {
            let long = (camera.place(&rotation, one)? - camera.place(&rotation, other)?).norm();
            off.push((long - mm) / (LENGTH_CLICKS * click));
        }
        Some(DVector::from_vec(off))
    }

    fn solve(&self, start: Camera) -> Option<Camera> {
        let mut camera = start;
        let mut now = self.residuals(&camera)?;
        let mut damping = 1e-3;
        for _ in 0..ROUNDS {
            let numbers = camera.numbers();
            let mut slopes = DMatrix::zeros(now.len(), numbers.len());
            for index in 0..numbers.len() {
                let step = 1e-6 * numbers[index].abs().max(0.1);
                let mut moved = numbers.clone();
                moved[index] += step;
                let off = self.residuals(&camera.with(&moved))?;
                slopes.set_column(index, &((off - &now) / step));
            }
            let squared = slopes.transpose() * &slopes;
            let right = slopes.transpose() * &now;
            let mut gained = None;
            while damping < 1e9 {
                let mut damped = squared.clone();
                for index in 0..numbers.len() {
                    damped[(index, index)] *= 1.0 + damping;
                }
                let next = damped.cholesky().map(|parts| camera.with(&(&numbers - parts.solve(&right))));
                let tried = next.and_then(|next| Some((self.residuals(&next)?, next)));
                match tried {
                    Some((off, next)) if off.norm_squared() < now.norm_squared() => {
                        gained = Some(now.norm_squared() - off.norm_squared());
                        (now, camera) = (off, next);
                        damping /= 8.0;
                        break;
                    }
                    _ => damping *= 6.0,
                }
            }
            if gained.is_none_or(|gained| gained < 1e-9) {
                break;
            }
        }
        Some(camera)
    }

    /// Root of the mean square of what the corners are missed by, in pixels.
    fn rms_px(&self, camera: &Camera) -> f64 {
        let count = self.sheets.len() * 8;
        let off = self.residuals(camera).unwrap_or_else(|| DVector::from_element(count, f64::INFINITY));
        (off.rows(0, count).norm_squared() / (count as f64 / 2.0)).sqrt() * CLICK_PX
    }
}

/// How far dots lie from the straight line nearest to them, in millimetres.
fn off_straight(dots: &[Vector2<f64>]) -> impl Iterator<Item = f64> + use<'_> {
    let middle = dots.iter().sum::<Vector2<f64>>() / dots.len() as f64;
    let spread: nalgebra::Matrix2<f64> =
        dots.iter().map(|dot| (dot - middle) * (dot - middle).transpose()).sum();
    let along = Vec2::from_angle((2.0 * spread[(0, 1)]).atan2(spread[(0, 0)] - spread[(1, 1)]) / 2.0);
    dots.iter().map(move |dot| along.cross(Vec2::new(dot.x - middle.x, dot.y - middle.y)))
}

/// The projective map that takes four places to four others, as a matrix.
fn four_points(from: &[Vector2<f64>; 4], to: &[Vector2<f64>; 4]) -> Option<Matrix3<f64>> {
    let mut rows = SMatrix::<f64, 8, 8>::zeros();
    let mut right = SVector::<f64, 8>::zeros();
    for (index, (from, to)) in from.iter().zip(to).enumerate() {
        let (x, y) = (from.x, from.y);
        let first = [x, y, 1.0, 0.0, 0.0, 0.0, -to.x * x, -to.x * y];
        let second = [0.0, 0.0, 0.0, x, y, 1.0, -to.y * x, -to.y * y];
        for column in 0..8 {
            rows[(2 * index, column)] = first[column];
            rows[(2 * index + 1, column)] = second[column];
        }
        (right[2 * index], right[2 * index + 1]) = (to.x, to.y);
    }
    let h = rows.lu().solve(&right)?;
    Some(Matrix3::new(h[0], h[1], h[2], h[3], h[4], h[5], h[6], h[7], 1.0))
}

/// A camera by the four corners of the first sheet and a focal length, no lens.
fn start(sheets: &[Oriented], focal: f64, middle: Vector2<f64>) -> Option<Camera> {
    let first = &sheets[0];
    let seen = first.corners.map(|corner| (corner - middle) / focal);
    let map = four_points(&corners_on_plane(first, None), &seen)?;
    let scale = 2.0 / (map.column(0).norm() + map.column(1).norm());
    let scale = if map[(2, 2)] * scale < 0.0 { -scale } else { scale };
    let (one, other) = (map.column(0) * scale, map.column(1) * scale);
    let across = one.cross(&other);
    let near = Matrix3::from_columns(&[one, other, across]);
    let parts = near.svd(true, true);
    let turn = parts.u? * parts.v_t?;
    if turn.determinant() <= 0.0 {
        return None;
    }
    let mut camera = Camera {
        f: focal,
        k1: 0.0,
        turn: Rotation3::from_matrix_unchecked(turn).scaled_axis(),
        shift: map.column(2) * scale,
        middle,
        further: Vec::new(),
    };
    let rotation = camera.rotation();
    for sheet in &sheets[1..] {
        let [corner, next, ..] = sheet.corners;
        let (at, along) = (camera.place(&rotation, corner)?, camera.place(&rotation, next)?);
        camera.further.push([at.x, at.y, (along.y - at.y).atan2(along.x - at.x)]);
    }
    Some(camera)
}

/// A piece's marks on the plane, in millimetres, and what they were found by.
pub(super) struct Rectified {
    pub(super) marks: Marks,
    pub(super) camera: CameraFound,
    /// What a click is on the plane, in millimetres.
    pub(super) click: f64,
}

/// Takes the marks of a photograph to the plane the toile lies in.
pub(super) fn rectify(
    piece: Draped,
    photo: &Photograph,
    marks: &Marks,
    notes: &mut Notes,
) -> Result<Rectified, Refusal> {
    let refuse = |says: String| Refusal::new(piece, &[], says);
    let [width, height] = photo.size_px;
    if !PICTURE_PX.contains(&width) || !PICTURE_PX.contains(&height) {
        return Err(refuse(format!(
            "The photograph of the {} is {width} × {height} pixels: take one between {} and {} pixels a side.",
            piece.name(),
            PICTURE_PX.start(),
            PICTURE_PX.end()
        )));
    }
    let (width, height) = (f64::from(width), f64::from(height));
    let middle = Vector2::new(width / 2.0, height / 2.0);
    marks_in_the_picture(piece, marks, (width, height))?;
    let turned = sheets(piece, photo)?;
    let stated = photo.focal_px.filter(|f| f.is_finite() && *f > 0.2 * width.max(height));
    let focal = stated.unwrap_or(USUAL_FOCAL * width.max(height));
    let focal_spread = if stated.is_some() { FOCAL_SPREAD.0 } else { FOCAL_SPREAD.1 };
    let known = known_length(piece, photo, marks)?;
    let ruled = marks.dots(Run::CentreDots);

    // Which side of a sheet was clicked first is found by which fits better.
    let mut best: Option<(f64, Camera, Problem<'_>)> = None;
    for sheets in turned {
        let area = |corners: &[Vector2<f64>; 4]| polygon_area(corners);
        let mm_per_px = (sheets[0].size.0 * sheets[0].size.1 / area(&sheets[0].corners)).sqrt();
        let Some(first) = start(&sheets, focal, middle) else { continue };
        let problem = Problem { sheets, focal, focal_spread, ruled, length: None, mm_per_px };
        let Some(camera) = problem.solve(first) else { continue };
        let off = problem.residuals(&camera).map_or(f64::INFINITY, |off| off.norm_squared());
        if best.as_ref().is_none_or(|(least, ..)| off < *least) {
            best = Some((off, camera, problem));
        }
    }
    let behind = || {
        refuse(format!(
            "No camera sees the corners of the sheets of the {} where they were clicked: click them again, in order round each sheet.",
            piece.name()
        ))
    };
    let (_, camera, mut problem) = best.ok_or_else(behind)?;
    let rms_px = problem.rms_px(&camera);
    if rms_px > MOST_RMS_PX {
        return Err(refuse(format!(
            "The corners of the sheets of the {} are missed by {rms_px:.0} pixels: is each sheet of the size that is stated, and was every corner clicked?",
            piece.name()
        )));
    }
    let is_alone = problem.sheets.len() == 1
        && polygon_area(&problem.sheets[0].corners) < ROUND_THE_TOILE * width * height;
    let (camera, scale_error) = scaled(piece, &mut problem, camera, known, is_alone, notes);
    let rotation = camera.rotation();
    let placed = marks.try_map(|named, at| {
        camera.place(&rotation, Vector2::new(at.x, at.y)).map(|at| Point::new(at.x, at.y)).ok_or_else(|| {
            let says = format!(
                "The {} of the {} lies above the horizon of the plane: click it again.",
                named.name(),
                piece.name()
            );
            Refusal::new(piece, &[named], says)
        })
    })?;
    let tilt = rotation[(2, 2)].clamp(-1.0, 1.0).acos().to_degrees();
    let found =
        CameraFound { piece, k1: camera.k1, f: camera.f, rms_px: problem.rms_px(&camera), tilt, scale_error };
    doubts(piece, marks, (width, height), &found, (is_alone, known.is_some(), problem.mm_per_px), notes);
    Ok(Rectified { marks: placed, camera: found, click: CLICK_PX * problem.mm_per_px })
}

fn marks_in_the_picture(piece: Draped, marks: &Marks, (width, height): (f64, f64)) -> Result<(), Refusal> {
    let points = marks.points().map(|(mark, at)| (Named::from(mark), at));
    let dots = marks.runs().flat_map(|(run, dots)| dots.iter().map(move |dot| (Named::from(run), *dot)));
    let outside =
        |(_, at): &(Named, Point)| !((0.0..=width).contains(&at.x) && (0.0..=height).contains(&at.y));
    points.chain(dots).find(outside).map_or(Ok(()), |(named, _)| {
        let says =
            format!("The {} of the {} lies outside the picture: click it again.", named.name(), piece.name());
        Err(Refusal::new(piece, &[named], says))
    })
}

/// The sheets with their corners clockwise, each way round: which of its sides a sheet's first two corners make is not known.
fn sheets(piece: Draped, photo: &Photograph) -> Result<Vec<Vec<Oriented>>, Refusal> {
    let refuse = |says: String| Refusal::new(piece, &[], says);
    if photo.sheets.is_empty() || photo.sheets.len() > MOST_SHEETS {
        return Err(refuse(format!(
            "The photograph of the {} shows {} sheets of known size: click the corners of one to {MOST_SHEETS}.",
            piece.name(),
            photo.sheets.len()
        )));
    }
    let mut ways: Vec<Vec<Oriented>> = vec![Vec::new()];
    for (index, sheet) in photo.sheets.iter().enumerate() {
        if !SHEET_MM.contains(&sheet.width) || !SHEET_MM.contains(&sheet.height) {
            return Err(refuse(format!(
                "Sheet {} of the {} is stated as {} mm × {} mm: its sides are between {} and {} mm.",
                index + 1,
                piece.name(),
                sheet.width,
                sheet.height,
                SHEET_MM.start(),
                SHEET_MM.end()
            )));
        }
        let mut corners = sheet.corners_px.map(|[x, y]| Vector2::new(x, y));
        if !is_convex(&corners) {
            return Err(refuse(format!(
                "The corners of sheet {} of the {} cross over: click them one after the other round the sheet.",
                index + 1,
                piece.name()
            )));
        }
        // y runs down: clockwise to the eye is a positive turn.
        if signed_area(&corners) < 0.0 {
            corners.reverse();
        }
        let upright = Oriented { size: (sheet.width, sheet.height), corners };
        let sideways = Oriented { size: (sheet.height, sheet.width), corners };
        let is_square = (sheet.width - sheet.height).abs() < 1e-9;
        let with = |own: &Oriented| {
            let own = own.clone();
            ways.iter()
                .map(move |way| way.iter().cloned().chain([own.clone()]).collect())
                .collect::<Vec<Vec<_>>>()
        };
        let mut next = with(&upright);
        if !is_square {
            next.extend(with(&sideways));
        }
        ways = next;
    }
    Ok(ways)
}

fn signed_area(corners: &[Vector2<f64>; 4]) -> f64 {
    (0..4).map(|index| corners[index].perp(&corners[(index + 1) % 4])).sum::<f64>() / 2.0
}

fn polygon_area(corners: &[Vector2<f64>; 4]) -> f64 {
    signed_area(corners).abs()
}

/// Whether four corners turn the same way at each of them, and no two are one place.
fn is_convex(corners: &[Vector2<f64>; 4]) -> bool {
    let side = |index: usize| {
        let by = corners[(index + 1) % 4] - corners[index % 4];
        Vec2::new(by.x, by.y)
    };
    let turns = (0..4).map(|index| turn_degrees(side(index), side(index + 1)));
    let turns: Vec<f64> = turns.collect();
    let is_long = (0..4).all(|index| side(index).hypot() > 10.0);
    is_long && (turns.iter().all(|turn| *turn > 5.0) || turns.iter().all(|turn| *turn < -5.0))
}

type InPicture = ([Vector2<f64>; 2], f64);

/// The known length: both ends in pixels, and how long it is.
fn known_length(piece: Draped, photo: &Photograph, marks: &Marks) -> Result<Option<InPicture>, Refusal> {
    let Some(known) = &photo.known_length else { return Ok(None) };
    let refuse = |says: String, named: &[Named]| Err(Refusal::new(piece, named, says));
    if !(50.0..=3000.0).contains(&known.mm) {
        return refuse(
            format!(
                "The known length across the {} is {} mm: measure one between 50 and 3000 mm.",
                piece.name(),
                known.mm
            ),
            &[],
        );
    }
    let ends = match (known.marks, known.px) {
        (Some([one, other]), _) => match (marks.get(one), marks.get(other)) {
            (Some(one), Some(other)) => [one, other],
            _ => {
                return refuse(
                    format!(
                        "The known length of the {} runs between two marks that are not both clicked.",
                        piece.name()
                    ),
                    &[one.into(), other.into()],
                );
            }
        },
        (None, Some(px)) => px.map(|[x, y]| Point::new(x, y)),
        (None, None) => {
            return refuse(format!("The known length of the {} has no ends: click both.", piece.name()), &[]);
        }
    };
    Ok(Some((ends.map(|at| Vector2::new(at.x, at.y)), known.mm)))
}

/// Holds the plane against the known length: it takes part where there is one sheet alone, and only checks where there is more.
fn scaled(
    piece: Draped,
    problem: &mut Problem<'_>,
    camera: Camera,
    known: Option<InPicture>,
    is_alone: bool,
    notes: &mut Notes,
) -> (Camera, Option<f64>) {
    let Some((ends, mm)) = known else { return (camera, None) };
    let rotation = camera.rotation();
    let [one, other] = ends.map(|end| camera.place(&rotation, end));
    let Some((one, other)) = one.zip(other) else { return (camera, None) };
    let off = (one - other).norm() / mm - 1.0;
    let most = if is_alone { SCALE_OFF.1 } else { SCALE_OFF.0 };
    if off.abs() > most {
        let says = format!(
            "The known length across the {} is {mm:.0} mm by tape and {:.0} mm in the picture: is it measured between these two places, and is each sheet of the stated size?",
            piece.name(),
            (one - other).norm()
        );
        notes.ask(piece, &[], says);
        return (camera, Some(off));
    }
    if !is_alone {
        return (camera, Some(off));
    }
    problem.length = Some((ends, mm));
    let mended = problem.solve(camera.clone());
    (mended.unwrap_or(camera), None)
}

/// What makes the plane less sure than it should be.
fn doubts(
    piece: Draped,
    marks: &Marks,
    (width, height): (f64, f64),
    found: &CameraFound,
    (is_alone, has_length, mm_per_px): (bool, bool, f64),
    notes: &mut Notes,
) {
    let mut doubt = |says: String| notes.notes.push(format!("Photograph of the {}: {says}", piece.name()));
    if is_alone {
        let more = if has_length { "" } else { ", and no known length beside it" };
        doubt(format!(
            "one sheet alone{more}. Two sheets, one on either side of the toile, make it half as uncertain."
        ));
    }
    if found.k1.abs() > RADIAL_DOUBT {
        doubt("the lens bends lines more than a main lens does. Take it again with the main lens, without zoom.".to_owned());
    }
    if found.tilt > TILT.0 {
        doubt(format!(
            "taken {:.0}\u{b0} from straight above. Under {:.0}\u{b0} is asked for.",
            found.tilt, TILT.0
        ));
    }
    if mm_per_px > 1.0 {
        doubt("less than one pixel a millimetre. Take it larger, or from nearer.".to_owned());
    }
    let middle = Point::new(width / 2.0, height / 2.0);
    let most = FAR_OUT * width.hypot(height);
    let points = marks.points().map(|(mark, at)| (Named::from(mark), at));
    let dots = marks.runs().flat_map(|(run, dots)| dots.iter().map(move |dot| (Named::from(run), *dot)));
    if let Some((named, _)) = points.chain(dots).find(|(_, at)| at.distance(middle) > most) {
        doubt(format!(
            "the {} lies near a corner of the picture, where a lens is least exact.",
            named.name()
        ));
    }
    if found.tilt > TILT.1 {
        let says = format!(
            "The photograph of the {} was taken {:.0}\u{b0} from straight above: take it again from over the middle of the toile, tilted under {:.0}\u{b0}.",
            piece.name(),
            found.tilt,
            TILT.0
        );
        notes.ask(piece, &[], says);
    }
}
