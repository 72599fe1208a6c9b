//! Doing one alteration: what holds for all of them, said once.

use super::between::between;
use super::darts_in_the_way::{alter_clear, suits};
use super::work::FollowUp;
use super::{AlterError, Alteration, Altered, Amounts, Args, follow_up, set_aside};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Piece, PieceKind, SideHang, WornSide, measure};

/// Alters a pattern, on both sides or on one.
///
/// An amount of nothing gives the same pattern back. One side alone turns each piece that changes into a
/// left and a right one, and so do amounts that ask for something else on either side; on a pattern whose sides differ
/// already, both are altered, each as it is. What goes all round is done once, whatever the side.
///
/// # Errors
///
/// [`AlterError`] with the limit or the way out; nothing is changed then.
pub fn apply(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    amounts: &Amounts,
    side: Option<WornSide>,
    style: Style,
) -> Result<Altered, AlterError> {
    let whole = || once(alteration, pattern, amounts, style);
    let apart = alteration.apart(&Args::new(alteration.params(), amounts));
    let worn_on = |side: WornSide| {
        let amounts = apart.as_ref().map_or(amounts, |[left, right]| match side {
            WornSide::Left => left,
            WornSide::Right => right,
        });
        once(alteration, &pattern.worn_on(side), amounts, style)
    };
    match side {
        _ if alteration.goes_all_round() => whole(),
        None if !pattern.is_sided() && apart.is_none() => whole(),
        None => {
            let [left, right] = WornSide::BOTH.map(worn_on);
            Ok(both(left?, right?, pattern))
        }
        Some(side) => {
            let other = Altered::unchanged(&pattern.worn_on(side.other()), None);
            let worn = worn_on(side)?;
            Ok(match side {
                WornSide::Left => both(worn, other, pattern),
                WornSide::Right => both(other, worn, pattern),
            })
        }
    }
}

/// Alters a pattern whose sides are alike, or one side of another as it is worn.
pub(super) fn once(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    amounts: &Amounts,
    style: Style,
) -> Result<Altered, AlterError> {
    set_aside::alter_without(alteration, pattern, |clear| once_clear(alteration, clear, amounts, style))
}

fn once_clear(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    amounts: &Amounts,
    style: Style,
) -> Result<Altered, AlterError> {
    let params = alteration.params();
    amounts.validate(params, style)?;
    let args = Args::new(params, amounts);
    if !suits(alteration, pattern) {
        return Err(AlterError::not_here(alteration.wants()));
    }
    let grip = alteration.grip(pattern, &args);
    if alteration.is_nothing(&args) {
        return Ok(Altered::unchanged(pattern, grip));
    }
    let mut altered = drawn(alteration, pattern, amounts, style)?;
    // A dart that is a pleat, or sewn along curves, stays so wherever it is drawn anew, and it is forgotten where it went into another place.
    let pieces = altered.pattern.pieces.iter_mut().chain(&mut altered.taped.pieces);
    pieces.for_each(Piece::forget_lost_darts);
    if alteration.turns_darts() {
        altered.pattern.side_hang = SideHang::after_turning(pattern, &altered.pattern);
    }
    altered.pattern.girths_off = pattern.girths_off.map(|off| {
        // What an alteration does not state it is taken to ask as it was taped together.
        let (stated, was, taped) = (alteration.grows(&args), measure(pattern), measure(&altered.taped));
        let unstated = |figure| taped.get(figure).zip(was.get(figure)).map_or(0.0, |(now, then)| now - then);
        let grows = |figure: PatternMeasure| {
            let own = stated.iter().find(|(known, _)| *known == figure);
            own.map_or_else(|| unstated(figure), |(_, mm)| *mm)
        };
        off.after(pattern, &altered.pattern, grows)
    });
    if altered.handle.is_none() {
        altered.handle = grip.map(|grip| grip.after(args.amount()));
    }
    Ok(follow_up::followed(alteration, pattern, altered, style))
}

/// The alteration of this amount: as a share of the least that is drawn by itself, where it is less.
fn drawn(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    amounts: &Amounts,
    style: Style,
) -> Result<Altered, AlterError> {
    let params = alteration.params();
    let args = Args::new(params, amounts);
    let (mm, least) = (args.amount(), alteration.drawn_from());
    let whole = || alter_clear(alteration, pattern, &args, style);
    // Only the amount is scaled: a second one that is asked for is drawn as it is.
    let is_alone = params[1..].iter().all(|param| {
        let number = args.number(param.code);
        number.is_none_or(|mm| mm == 0.0 || param.default == Some(mm))
    });
    if mm == 0.0 || mm.abs() >= least || !is_alone {
        return whole();
    }
    // Where the pattern does not take so much, half or a quarter of it.
    let at_least = [least, least / 2.0, least / 4.0].into_iter().filter(|least| *least > mm.abs());
    let full = { at_least }.find_map(|least| {
        let amounts = amounts.clone().with(params[0].code, least.copysign(mm));
        let full = alter_clear(alteration, pattern, &Args::new(params, &amounts), style).ok()?;
        Some((full, mm.abs() / least))
    });
    let Some((full, share)) = full else { return whole() };
    let part = |to: &Pattern| between(pattern, to, share);
    match (part(&full.pattern), part(&full.taped)) {
        (Some(drawn), Some(taped)) => {
            // It is said as it is asked, and drawn between.
            let work = whole().unwrap_or(full);
            Ok(Altered { pattern: drawn, taped, ..work })
        }
        _ => whole(),
    }
}

/// What was done on the left and on the right, as one pattern.
pub(super) fn both(left: Altered, right: Altered, before: &Pattern) -> Altered {
    let pattern = joined(&left.pattern, &right.pattern, before);
    let taped = joined(&left.taped, &right.taped, before);
    let in_left = |kind: PieceKind| named(&pattern, kind, WornSide::Left);
    let in_right = |kind: PieceKind| named(&pattern, kind, WornSide::Right);
    let work = left.work.renamed(in_left).together(right.work.renamed(in_right));
    // What can be taken hold of lies on the left, or on the right where only that was altered.
    let handle = either((left.handle, right.handle), |handle| &mut handle.piece, (&in_left, &in_right));
    let point = either((left.point, right.point), |point| &mut point.piece, (&in_left, &in_right));
    let mut follow_ups: Vec<FollowUp> = Vec::new();
    let on_left = left.follow_ups.into_iter().map(|each| each.on(WornSide::Left));
    for follow_up in on_left.chain(right.follow_ups.into_iter().map(|each| each.on(WornSide::Right))) {
        // A reminder that holds for both sides is said once; an offer is for its own side.
        if !follow_ups.contains(&follow_up) {
            follow_ups.push(follow_up);
        }
    }
    if pattern.is_sided() && !before.is_sided() {
        follow_ups.push(must_match(&pattern));
    }
    Altered { pattern, taped, handle, point, follow_ups, work }
}

/// What one side has, or the other, on its piece under the name that this has in the whole pattern.
fn either<T>(
    (left, right): (Option<T>, Option<T>),
    piece: impl Fn(&mut T) -> &mut PieceKind,
    (in_left, in_right): (&dyn Fn(PieceKind) -> PieceKind, &dyn Fn(PieceKind) -> PieceKind),
) -> Option<T> {
    let (mut found, name) =
        left.map(|found| (found, in_left)).or_else(|| right.map(|found| (found, in_right)))?;
    let kind = piece(&mut found);
    *kind = name(*kind);
    Some(found)
}

/// The two sides in one pattern: a piece that is alike on both stays one piece.
fn joined(left: &Pattern, right: &Pattern, before: &Pattern) -> Pattern {
    let mut pieces: Vec<Piece> = Vec::new();
    for piece in &left.pieces {
        if piece.kind.side().is_none() && right.pieces.contains(piece) {
            pieces.push(piece.clone());
        } else {
            pieces.push(piece.clone().named(piece.kind.on(WornSide::Left)));
        }
    }
    for piece in &right.pieces {
        if !pieces.contains(piece) {
            pieces.push(piece.clone().named(piece.kind.on(WornSide::Right)));
        }
    }
    let place = |piece: &Piece| {
        let part = piece.kind.part();
        before.pieces.iter().position(|old| old.kind.part() == part).unwrap_or(before.pieces.len())
    };
    pieces.sort_by_key(place);
    // Sides whose darts were turned otherwise hang each by itself: one reason cannot stand for both.
    let side_hang = left.side_hang.filter(|_| left.side_hang == right.side_hang);
    let girths_off = left.girths_off.zip(right.girths_off).map(|(left, right)| left.worse(right));
    Pattern { pieces, side_hang, girths_off, ..left.clone() }
}

fn named(pattern: &Pattern, kind: PieceKind, side: WornSide) -> PieceKind {
    if pattern.piece(kind).is_some() { kind } else { kind.on(side) }
}

/// What must still match where left and right have become pieces of their own.
fn must_match(pattern: &Pattern) -> FollowUp {
    let parts: Vec<String> = pattern
        .pieces
        .iter()
        .filter(|piece| piece.kind.side() == Some(WornSide::Left))
        .map(|piece| format!("{} at the {}", piece.kind.name(), piece.kind.centre().name()))
        .collect();
    FollowUp::reminder(format!(
        "Left and right differ now and are cut singly. They must still match where they meet: {}.",
        parts.join(", ")
    ))
}
