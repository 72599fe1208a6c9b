//! A pinch at the back armhole: the shoulder blade's dart, drafted or moved there, lies in the shoulder while the back is fitted and
//! goes back to the armhole afterwards. So every correction of a back is one and the same, wherever its dart is sewn.

use kurbo::Vec2;

use super::move_dart::moved;
use super::pivot::ray_on_seam;
use super::{AlterError, Alteration, Altered, Layer};
use crate::pattern::{DartPlace, Pattern, Piece, Seam};

/// The pinch lies in the middle of the shoulder meanwhile, as a share of it.
const ON_SHOULDER: f64 = 0.5;

/// A pattern with the pinch of its back turned to the shoulder, for what fits it; none where there is nothing to turn.
pub(super) fn in_the_shoulder(alteration: &dyn Alteration, pattern: &Pattern) -> Option<Pattern> {
    if alteration.about().layer > Layer::Fit {
        return None;
    }
    let back = pattern.back()?;
    if back.dart(DartPlace::Shoulder).is_some() {
        return None;
    }
    let (_, turned) = moved(back, DartPlace::Armhole, DartPlace::Shoulder, 1.0, Some(ON_SHOULDER)).ok()?;
    Some(pattern.clone().with(turned))
}

/// What was done with the pinch in the shoulder, with the pinch at the armhole again: as it was where the back was not touched.
///
/// # Errors
///
/// [`AlterError`] where the armhole is cut away beside its pivot.
pub(super) fn turned_back(
    mut done: Altered,
    before: &Pattern,
    clear: &Pattern,
) -> Result<Altered, AlterError> {
    let (Some(was), Some(untouched)) = (before.back(), clear.back()) else { return Ok(done) };
    if done.pattern.piece(was.kind).is_some_and(|back| back != untouched) {
        tell(&mut done);
    }
    let back_of = |pattern: &Pattern| pattern.pieces.iter().position(|piece| piece.kind == was.kind);
    let turned = |back: &Piece| if back == untouched { Ok(was.clone()) } else { at_the_armhole(back, was) };
    if let Some(index) = back_of(&done.pattern) {
        done.pattern.pieces[index] = turned(&done.pattern.pieces[index])?;
    }
    // As it is taped together, before it is trued, the legs of a dart need not meet yet: such a one stays in the shoulder.
    if let Some(index) = back_of(&done.taped)
        && let Ok(back) = turned(&done.taped.pieces[index])
    {
        done.taped.pieces[index] = back;
    }
    Ok(done)
}

/// Says in the words of the stages what is turned first and back at the end.
fn tell(done: &mut Altered) {
    done.work.moved_again = true;
    let words = &mut done.work.words;
    if let Some((_, said)) = words.first_mut() {
        *said = format!(
            "Fold the pinch at the back armhole shut and cut open to its pivot from the middle of the shoulder. {said}"
        );
    }
    if let Some((_, said)) = words.last_mut() {
        *said = format!("{said} Close the shoulder, so that the pinch opens at the armhole again.");
    }
}

/// A back with its shoulder dart turned to the armhole, in the direction in which the pinch ran from its pivot.
fn at_the_armhole(back: &Piece, was: &Piece) -> Result<Piece, AlterError> {
    let Some(dart) = back.dart(DartPlace::Shoulder) else { return Ok(back.clone()) };
    // The lower leg lies on cloth that did not turn.
    let below = was.mouth(DartPlace::Armhole).zip(was.dart(DartPlace::Armhole));
    let ran = below.map_or(Vec2::new(1.0, 0.0), |((_, lower), dart)| lower - dart.pivot);
    let seam = Seam::Armhole;
    let at = ray_on_seam(back, seam, dart.pivot, ran).ok_or_else(|| AlterError::no_seam(seam))?;
    let share = (back.length_before(at.edge, seam) + at.along) / back.flat_length(seam);
    Ok(moved(back, DartPlace::Shoulder, DartPlace::Armhole, 1.0, Some(share))?.1)
}
