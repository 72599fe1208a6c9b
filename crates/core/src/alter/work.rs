//! What an alteration did: the new pattern, the stages for shears and paper, what moved.

use crate::Style;
use kurbo::{BezPath, ParamCurve, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::place_names::named_in;
use super::{Amounts, PlaceName};
use crate::geometry::{Curve, Pt, short_svg};
use crate::pattern::{Pattern, Piece, PieceKind, Seam, Slash, WornSide};

/// A pattern altered, and how.
#[derive(Clone, Debug, PartialEq)]
pub struct Altered {
    /// The new state of every piece.
    pub pattern: Pattern,
    /// The same as it is taped together, before it is trued: where what stays, stays exactly.
    pub taped: Pattern,
    /// Where the amount can be dragged.
    pub handle: Option<Handle>,
    /// A point of a line that can be dragged.
    pub point: Option<DrawnPoint>,
    /// What follows in other pieces.
    pub follow_ups: Vec<FollowUp>,
    /// What it is told and drawn from: a recipe has many steps, and only the one in hand is looked at.
    pub(super) work: Work,
}

/// What the stages of an alteration are drawn from.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Work {
    /// What was done to each piece.
    pub(super) works: Vec<PieceWork>,
    /// The stages and their words.
    pub(super) words: Vec<(StageKind, String)>,
    /// Where pieces were divided: what they became, drawn in the last stage.
    pub(super) became: Vec<Piece>,
    /// What the shears moved was moved again: before and now tell it better.
    pub(super) moved_again: bool,
}

impl Altered {
    /// The pattern as it was: an amount of nothing.
    pub(super) fn unchanged(pattern: &Pattern, handle: Option<Handle>) -> Self {
        Self {
            pattern: pattern.clone(),
            taped: pattern.clone(),
            handle,
            point: None,
            follow_ups: Vec::new(),
            work: Work::default(),
        }
    }

    /// How it is done with shears and paper.
    pub fn stages_in(&self, style: Style) -> Vec<Stage> {
        let said = |stage: Stage| Stage { words: style.say(&stage.words), ..stage };
        self.stages().into_iter().map(said).collect()
    }

    /// The stages with lengths as the craft has them, in millimetres where a sentence is fixed.
    pub fn stages(&self) -> Vec<Stage> {
        let drawings = |kind: StageKind, words: &str| -> Vec<StageDrawing> {
            if kind == StageKind::True && !self.work.became.is_empty() {
                return self.work.became.iter().map(|piece| outline_of(piece, words)).collect();
            }
            self.work.works.iter().map(|work| work.drawing(kind, words)).collect()
        };
        let stage = |(kind, words): &(StageKind, String)| Stage {
            kind: *kind,
            words: words.clone(),
            drawings: drawings(*kind, words),
        };
        self.work.words.iter().map(stage).collect()
    }

    /// What moved, as areas to tint.
    pub fn moved(&self) -> Vec<(PieceKind, BezPath)> {
        if self.work.moved_again {
            return Vec::new();
        }
        if !self.work.became.is_empty() {
            // Of a divided piece the part that came off, and what was cut once more.
            let came_off = self.work.became.iter().filter(|piece| piece.kind.is_second_part());
            return came_off.map(|piece| (piece.kind, piece.outline())).collect();
        }
        let of = |work: &PieceWork| {
            let kind = work.before.kind;
            work.moved().into_iter().map(move |path| (kind, path)).collect::<Vec<_>>()
        };
        self.work.works.iter().flat_map(of).collect()
    }

    /// The same with something that must follow.
    pub(super) fn and(mut self, follow_up: FollowUp) -> Self {
        self.follow_ups.push(follow_up);
        self
    }

    /// The same with the amount's own place on the drawing.
    pub(super) fn held_at(mut self, handle: Option<Handle>) -> Self {
        self.handle = handle;
        self
    }
}

impl Work {
    /// The same with its pieces under other names.
    pub(super) fn renamed(mut self, kind: impl Fn(PieceKind) -> PieceKind) -> Self {
        for work in &mut self.works {
            work.before.kind = kind(work.before.kind);
        }
        for piece in &mut self.became {
            piece.kind = kind(piece.kind);
        }
        self
    }

    /// What was done on the left and on the right, told together.
    pub(super) fn together(mut self, other: Self) -> Self {
        if self.words.is_empty() {
            return other;
        }
        if other.words.len() == self.words.len() {
            for ((_, left), (_, right)) in self.words.iter_mut().zip(&other.words) {
                *left = of_both_sides(std::mem::take(left), right);
            }
        }
        let new: Vec<PieceWork> = other.works.into_iter().filter(|work| !self.works.contains(work)).collect();
        self.works.extend(new);
        let new: Vec<Piece> = other.became.into_iter().filter(|piece| !self.became.contains(piece)).collect();
        self.became.extend(new);
        self
    }
}

/// What is said of her left and of her right: once where both are alike.
pub(super) fn of_both_sides(left: String, right: &str) -> String {
    if left == right || right.is_empty() { left } else { format!("Left: {left} Right: {right}") }
}

/// How a follow-up stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum FollowKind {
    /// It was done with the alteration.
    Done,
    /// There is a choice: it is offered.
    Offered,
    /// The piece is not in this pattern: a reminder.
    Reminder,
}

/// What an alteration means for another piece.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FollowUp {
    /// How it stands.
    pub kind: FollowKind,
    /// What follows, as a sentence.
    pub says: String,
    /// The step that would do it, where it is offered.
    pub offer: Option<Offer>,
    /// The edge it is about and what is told of that: said instead where pieces of this pattern follow that edge at the end of
    /// the recipe, for they are drafted again.
    #[serde(skip)]
    pub(super) where_followed: Option<(Seam, String)>,
}

/// A step that is offered: code of the alteration, its amounts and its side.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Offer {
    /// Code of the alteration.
    pub alteration: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// The side it is for; both where left and right are alike.
    pub side: Option<WornSide>,
}

impl FollowUp {
    pub(super) fn reminder(says: impl Into<String>) -> Self {
        Self { kind: FollowKind::Reminder, says: says.into(), offer: None, where_followed: None }
    }

    pub(super) fn done(says: impl Into<String>) -> Self {
        Self { kind: FollowKind::Done, says: says.into(), offer: None, where_followed: None }
    }

    pub(super) fn offered(says: impl Into<String>, alteration: &str, amounts: Amounts) -> Self {
        let offer = Offer { alteration: alteration.to_owned(), amounts, side: None };
        Self { kind: FollowKind::Offered, says: says.into(), offer: Some(offer), where_followed: None }
    }

    /// What is told instead where pieces follow that edge at the end of the recipe.
    pub(super) fn where_followed(mut self, edge: Seam, told: impl Into<String>) -> Self {
        self.where_followed = Some((edge, told.into()));
        self
    }

    /// As it stands beside the finished pattern: what is drafted again there by itself is no reminder.
    pub(super) fn beside(self, finished: &Pattern) -> Self {
        let Some((edge, told)) = &self.where_followed else { return self };
        let mut words: Vec<&str> =
            finished.follows(*edge).filter_map(|piece| piece.kind.share().word()).collect();
        words.dedup();
        match words.as_slice() {
            [] => self,
            [one] => Self::done(format!("{told}: its {one} is drafted again.")),
            more => Self::done(format!("{told}: its {} are drafted again.", more.join(" and "))),
        }
    }

    /// The same for one side of a pattern whose sides differ.
    pub(super) fn on(mut self, side: WornSide) -> Self {
        if let Some(offer) = &mut self.offer {
            offer.side = Some(side);
            self.says = format!("{} ({} side)", self.says, side.name());
        }
        self
    }
}

/// The steps every alteration is told in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum StageKind {
    /// Rule the lines.
    Mark,
    /// Cut along them.
    Cut,
    /// Move what was cut.
    Move,
    /// Fill what opened.
    Fill,
    /// Make it sewable.
    True,
}

impl StageKind {
    /// The word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Mark => "Mark",
            Self::Cut => "Cut",
            Self::Move => "Move",
            Self::Fill => "Fill",
            Self::True => "True",
        }
    }
}

/// One stage: words, and what is drawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stage {
    /// Which.
    pub kind: StageKind,
    /// What to do, in the trade's words.
    pub words: String,
    /// What is drawn on each piece concerned.
    pub drawings: Vec<StageDrawing>,
}

/// A stage on one piece: SVG path data.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StageDrawing {
    /// Which piece.
    pub piece: PieceKind,
    /// Its outline at this stage; empty where the regions show it.
    pub outline: String,
    /// Regions that stay.
    pub still: Vec<String>,
    /// Regions that move, where they are at this stage.
    pub moving: Vec<String>,
    /// Ruled lines.
    pub lines: Vec<String>,
    /// Hinges.
    pub hinges: Vec<Pt>,
    /// The lines and points the stage's words speak of.
    pub names: Vec<PlaceName>,
}

/// Where an amount can be dragged on the drawing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Handle {
    /// On which piece.
    pub piece: PieceKind,
    /// The point as it lies now.
    pub at: Pt,
    /// One millimetre this way is one millimetre of amount.
    pub along: Pt,
}

impl Handle {
    pub(super) fn new(piece: PieceKind, at: Point, along: Vec2) -> Self {
        Self { piece, at: at.into(), along: Pt { x: along.x, y: along.y } }
    }

    /// The handle where this amount has brought it.
    pub(super) fn after(mut self, mm: f64) -> Self {
        self.at = Pt { x: self.at.x + self.along.x * mm, y: self.at.y + self.along.y * mm };
        self
    }
}

/// A point that a line is drawn through, to be dragged on the drawing out and down.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrawnPoint {
    /// On which piece.
    pub piece: PieceKind,
    /// The point as it lies now.
    pub at: Pt,
    /// Out from the centre line, in millimetres.
    pub out: f64,
    /// Down from the neck side, in millimetres.
    pub down: f64,
    /// Both in words.
    pub says: String,
    /// The parameters that set both, by their codes.
    pub params: [String; 2],
}

/// What an alteration did to one piece.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct PieceWork {
    before: Piece,
    slash: Option<Slash>,
    taped: Piece,
    trued: Piece,
    /// Lines to rule besides the cuts or the line drawn anew.
    lines: Vec<Curve>,
    hinges: Vec<Point>,
    /// Names of cuts, where the words number them.
    names: Vec<PlaceName>,
}

impl PieceWork {
    /// A piece that was cut and moved: as it was, the cuts, as it is taped, and trued.
    pub(super) fn cut(before: &Piece, slash: Slash, taped: Piece, trued: Piece) -> Self {
        let hinges = slash.hinges();
        Self {
            before: before.clone(),
            slash: Some(slash),
            taped,
            trued,
            lines: Vec::new(),
            hinges,
            names: Vec::new(),
        }
    }

    /// A piece of which a line was drawn anew.
    pub(super) fn drawn(before: &Piece, after: Piece) -> Self {
        Self::drawn_and_trued(before, after.clone(), after)
    }

    /// A piece of which a line was drawn anew and then trued.
    pub(super) fn drawn_and_trued(before: &Piece, drawn: Piece, trued: Piece) -> Self {
        Self {
            before: before.clone(),
            slash: None,
            taped: drawn,
            trued,
            lines: Vec::new(),
            hinges: Vec::new(),
            names: Vec::new(),
        }
    }

    /// The same with a name on one of its cuts.
    pub(super) fn with_name(mut self, name: &str, at: Point) -> Self {
        self.names.push(PlaceName::new(name, at));
        self
    }

    /// The same with a line to rule.
    pub(super) fn with_line(mut self, points: &[Point]) -> Self {
        self.lines.extend(Curve::polyline(points));
        self
    }

    /// The same with a curve to draw.
    pub(super) fn with_curve(mut self, curve: &Curve) -> Self {
        self.lines.push(curve.clone());
        self
    }

    /// The same with a hinge to mark.
    pub(super) fn with_hinge(mut self, hinge: Point) -> Self {
        self.hinges.push(hinge);
        self
    }

    fn moved(&self) -> Vec<BezPath> {
        match &self.slash {
            Some(slash) => {
                slash.regions(&self.before).into_iter().filter(|r| r.moves).map(|r| r.after).collect()
            }
            None => changed(&self.before, &self.taped).map(|(old, new)| swept(old, new)).collect(),
        }
    }

    /// What is ruled or drawn: the cuts or the line drawn anew, and what was added.
    fn ruled(&self) -> Vec<String> {
        let own: Vec<String> = match &self.slash {
            Some(slash) => slash.lines(&self.before).iter().map(|line| polyline_svg(line)).collect(),
            None => changed(&self.before, &self.taped).map(|(_, new)| svg(&new.to_path())).collect(),
        };
        own.into_iter().chain(self.lines.iter().map(|line| svg(&line.to_path()))).collect()
    }

    /// What the words of a stage name on a piece: its own places, and before it is moved its cuts and hinges.
    fn names(&self, words: &str, piece: &Piece) -> Vec<PlaceName> {
        let mut names = named_in(words, piece);
        if std::ptr::eq(piece, &self.before) {
            names.extend(self.names.iter().cloned());
            if words.to_lowercase().contains("hinge") {
                names.extend(self.hinges.iter().map(|at| PlaceName::new("hinge", *at)));
            }
        }
        names
    }

    fn drawing(&self, kind: StageKind, words: &str) -> StageDrawing {
        let is_in_parts = matches!(kind, StageKind::Cut | StageKind::Move);
        let cut = self.slash.as_ref().filter(|_| is_in_parts);
        let regions = cut.map(|slash| slash.regions(&self.before)).unwrap_or_default();
        let still = || regions.iter().filter(|r| !r.moves).map(|r| svg(&r.before)).collect::<Vec<_>>();
        let moving = |after: bool| -> Vec<String> {
            let of = |r: &crate::pattern::Region| svg(if after { &r.after } else { &r.before });
            regions.iter().filter(|r| r.moves).map(of).collect()
        };
        let is_cut = self.slash.is_some();
        let of = |outline: &Piece, lines: bool| StageDrawing {
            piece: self.before.kind,
            outline: svg(&outline.outline()),
            still: Vec::new(),
            moving: Vec::new(),
            lines: if lines { self.ruled() } else { Vec::new() },
            hinges: self.hinges.iter().copied().map(Pt::from).collect(),
            names: self.names(words, outline),
        };
        match kind {
            StageKind::Mark => of(&self.before, is_cut || self.taped == self.before),
            StageKind::Cut if is_cut => StageDrawing {
                outline: String::new(),
                still: still(),
                moving: moving(false),
                ..of(&self.before, true)
            },
            StageKind::Cut => of(&self.before, true),
            StageKind::Move if is_cut => StageDrawing {
                outline: String::new(),
                still: still(),
                moving: moving(true),
                ..of(&self.taped, false)
            },
            StageKind::Move => {
                StageDrawing { moving: self.moved().iter().map(svg).collect(), ..of(&self.before, true) }
            }
            StageKind::Fill => of(&self.taped, false),
            StageKind::True => of(&self.trued, false),
        }
    }
}

/// A piece's outline as a stage's drawing.
fn outline_of(piece: &Piece, words: &str) -> StageDrawing {
    StageDrawing {
        piece: piece.kind,
        outline: svg(&piece.outline()),
        still: Vec::new(),
        moving: Vec::new(),
        lines: Vec::new(),
        hinges: Vec::new(),
        names: named_in(words, piece),
    }
}

/// Edges of the two that do not run alike, where they can be told to be the same.
fn changed<'a>(before: &'a Piece, after: &'a Piece) -> impl Iterator<Item = (&'a Curve, &'a Curve)> {
    let same_edges = before.edges.len() == after.edges.len();
    before
        .edges
        .iter()
        .zip(&after.edges)
        .filter(move |(old, new)| same_edges && old.seam == new.seam && old.curve != new.curve)
        .map(|(old, new)| (&old.curve, &new.curve))
}

/// The area between an old line and the new one.
fn swept(old: &Curve, new: &Curve) -> BezPath {
    let mut path = old.to_path();
    for seg in new.reversed().segments() {
        path.line_to(seg.start());
        path.push(seg.as_path_el());
    }
    path.close_path();
    path
}

/// Puts an alteration together: the pieces it worked on, and its words stage by stage.
pub(super) fn altered(pattern: &Pattern, works: &[PieceWork], words: &[(StageKind, String)]) -> Altered {
    let mut altered = Altered::unchanged(pattern, None);
    for work in works {
        altered.pattern = altered.pattern.with(work.trued.clone());
        altered.taped = altered.taped.with(work.taped.clone());
    }
    altered.work = Work { works: works.to_vec(), words: words.to_vec(), ..Work::default() };
    altered
}

/// SVG path data for a stage.
pub(super) fn svg(path: &BezPath) -> String {
    short_svg(path)
}

fn polyline_svg(points: &[Point]) -> String {
    Curve::polyline(points).map_or_else(String::new, |curve| svg(&curve.to_path()))
}
