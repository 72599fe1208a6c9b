//! Where a figure that is worked out comes to nothing.

/// Where `f` is nought between `low` and `high`, to a hundred-thousandth of a millimetre. `None` where it has
/// the same sign at both ends. False position in the Illinois form: it closes from both sides.
pub(crate) fn root(f: impl Fn(f64) -> f64, mut low: f64, mut high: f64) -> Option<f64> {
    let (mut at_low, mut at_high) = (f(low), f(high));
    if at_low == 0.0 {
        return Some(low);
    }
    if at_low.signum() == at_high.signum() || !(at_low.is_finite() && at_high.is_finite()) {
        return None;
    }
    let mut last = 0;
    for _ in 0..100 {
        let at = (low * at_high - high * at_low) / (at_high - at_low);
        let here = f(at);
        if here.abs() < 1e-6 || (high - low).abs() < 1e-5 {
            return Some(at);
        }
        if here.signum() == at_high.signum() {
            (high, at_high) = (at, here);
            if last == -1 {
                at_low /= 2.0;
            }
            last = -1;
        } else {
            (low, at_low) = (at, here);
            if last == 1 {
                at_high /= 2.0;
            }
            last = 1;
        }
    }
    Some(low.midpoint(high))
}
