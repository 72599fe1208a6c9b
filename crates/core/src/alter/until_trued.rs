//! How much is drawn so that a line is as long as wanted once it is trued: truing itself takes or gives a little.

use super::AlterError;
use crate::geometry::root;
use crate::pattern::Piece;

/// The amount, of a range, at which the piece as it is drawn and trued measures what is wanted. `None` where none does.
pub(super) fn until_trued(
    range: (f64, f64),
    wanted: f64,
    drawn: impl Fn(f64) -> Result<Piece, AlterError>,
    measured: impl Fn(&Piece) -> f64,
) -> Option<f64> {
    let off = |amount: f64| drawn(amount).map_or(f64::NAN, |piece| measured(&piece) - wanted);
    root(off, range.0, range.1)
}
