//! What is behind an exercise: a figure, what she has on, a cause, and what the cause's alteration would change on it.

use std::collections::BTreeMap;
use std::sync::LazyLock;

use super::Difficulty;
use super::chance::Chance;
use crate::Style;
use crate::alter::{Amounts, Decided, Recipe, alteration, apply, make};
use crate::body::{Body, Side};
use crate::draft::{Method, MethodKind, draft, size_table};
use crate::fitting::{Cause, Worn, causes};
use crate::pattern::{Garment, Pattern, PatternMeasure, WornSide, measure};

/// A cause behind what is seen.
#[derive(Clone, Debug)]
pub(super) struct Hidden {
    pub(super) cause: &'static Cause,
    /// What its alteration is told, in millimetres.
    pub(super) mm: f64,
    pub(super) side: Side,
}

/// What is worn, and the block it was cut from.
pub(super) struct Cut {
    pub(super) garment: Garment,
    pub(super) worn: Worn,
    pub(super) says: &'static str,
    pub(super) pattern: Pattern,
}

/// Nothing is rounded while an exercise is made: only what is shown is.
const FINE: Style = Style::TENTHS;

/// What can be put on a figure, the plainest first.
pub(super) fn cuts(body: &Body) -> Vec<Cut> {
    let drafted = |kind: MethodKind, with_sleeve: bool| {
        let method = Method { kind, with_sleeve, ..Method::default() };
        draft(body, &method, FINE).ok().map(|draft| draft.pattern)
    };
    let cut = |says: &'static str, pattern: Option<Pattern>| {
        let pattern = pattern?;
        Some(Cut { garment: pattern.garment(), worn: Worn::of(&pattern), says, pattern })
    };
    let princess = |pattern: Pattern| {
        let mut recipe = Recipe::default();
        recipe.take(Decided::new("princess_line", Amounts::of(0.0), ""));
        let made = make(&pattern, &recipe, FINE);
        made.is_whole().then_some(made.pattern)
    };
    let bodice = drafted(MethodKind::Direct, true);
    [
        cut("a bodice toile with sleeves", bodice.clone()),
        cut("a dress toile with sleeves", drafted(MethodKind::Dress, true)),
        cut("a skirt toile", drafted(MethodKind::Skirt, false)),
        cut("a bodice toile without sleeves", drafted(MethodKind::Direct, false)),
        cut("a princess bodice toile with sleeves", bodice.and_then(princess)),
        cut("a princess bodice toile without sleeves", drafted(MethodKind::Direct, false).and_then(princess)),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// The causes that can be practised: what is altered for each of them can be shown on a toile. Found once, on a middle figure.
pub fn practised_causes() -> &'static [&'static Cause] {
    static PRACTISED: LazyLock<Vec<&'static Cause>> = LazyLock::new(|| {
        let table = size_table("medium");
        let middle = table.and_then(|table| table.figure(&table.sizes[table.sizes.len() / 2].label));
        let cuts = middle.as_ref().map_or_else(Vec::new, cuts);
        let is_shown = |cause: &&'static Cause| {
            cuts.iter()
                .any(|cut| hide(cause, cut, Difficulty::Easy.rules().amount, &mut Chance::new(1)).is_some())
        };
        causes().iter().filter(is_shown).collect()
    });
    &PRACTISED
}

/// What she is off by against the pattern she has on, in every figure of it and on either side of her, in millimetres.
#[derive(Clone, Debug, Default)]
pub(super) struct Differs {
    left: BTreeMap<PatternMeasure, f64>,
    right: BTreeMap<PatternMeasure, f64>,
}

impl Differs {
    fn between(worn: &Pattern, hers: &Pattern) -> Self {
        let on = |side: WornSide| {
            let (worn, hers) = (measure(&worn.worn_on(side)), measure(&hers.worn_on(side)));
            hers.iter().filter_map(|(figure, mm)| Some((figure, mm - worn.get(figure)?))).collect()
        };
        Self { left: on(WornSide::Left), right: on(WornSide::Right) }
    }

    /// The same with what another cause makes.
    pub(super) fn and(mut self, other: &Self) -> Self {
        for (own, more) in [(&mut self.left, &other.left), (&mut self.right, &other.right)] {
            more.iter().for_each(|(figure, mm)| *own.entry(*figure).or_default() += mm);
        }
        self
    }

    /// On one side of her.
    pub(super) fn on(&self, side: WornSide, figure: PatternMeasure) -> f64 {
        let own = match side {
            WornSide::Left => &self.left,
            WornSide::Right => &self.right,
        };
        own.get(&figure).copied().unwrap_or_default()
    }

    /// Of the whole garment: the mean of both sides, as it is measured.
    pub(super) fn of(&self, figure: PatternMeasure) -> f64 {
        self.on(WornSide::Left, figure).midpoint(self.on(WornSide::Right, figure))
    }
}

/// A cause, and what it makes of a figure.
pub(super) struct Behind {
    pub(super) hidden: Hidden,
    pub(super) differs: Differs,
}

/// Hides a cause behind what is worn; `None` where it cannot be with that, or cannot be drawn on it.
pub(super) fn hide(
    cause: &'static Cause,
    cut: &Cut,
    (least, most): (f64, f64),
    chance: &mut Chance,
) -> Option<Behind> {
    if !cause.goes_with(&cut.worn) {
        return None;
    }
    let (code, usual) = cause.corrected_by(cut.garment)?;
    let known = alteration(code)?;
    let share = chance.between(least, most);
    let side = cause.side_or(if chance.percent(50.0) { Side::Left } else { Side::Right });
    // Where so much cannot be done on this block, a little less of it is behind it.
    [1.0, 0.75, 0.5].into_iter().find_map(|less| {
        let mm = (usual * share * less).round();
        let amounts = cause.told(cut.garment, mm)?;
        let hers = apply(known, &cut.pattern, &amounts, WornSide::of(side), FINE).ok()?.pattern;
        let differs = Differs::between(&cut.pattern, &hers);
        Some(Behind { hidden: Hidden { cause, mm, side }, differs })
    })
}

/// A figure of the size table, and a little of her own.
pub(super) fn figure(chance: &mut Chance) -> Option<Body> {
    /// Readings that differ together from the table's, and by how much at most, in millimetres.
    const OWN: [(&[&str], f64); 8] = [
        (&["bust_girth", "upper_bust_girth"], 15.0),
        (&["waist_girth"], 15.0),
        (&["hip_girth"], 15.0),
        (&["shoulder_length"], 3.0),
        (&["across_front", "across_back"], 5.0),
        (&["nape_to_waist_back", "snp_to_waist_back", "snp_to_waist_front", "side_length"], 10.0),
        (&["arm_length"], 12.0),
        (&["upper_arm_girth"], 8.0),
    ];
    let table = size_table("medium")?;
    let size = chance.one_of(&table.sizes)?;
    let body = table.figure(&size.label)?;
    Some(OWN.iter().fold(body, |body, (codes, most)| {
        let by = chance.between(-most, *most);
        codes.iter().fold(body, |body, code| match body.get(code) {
            Some(mm) => body.with(code, mm + by),
            None => body,
        })
    }))
}
