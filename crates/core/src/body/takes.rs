//! Repeats: several takes of one measurement, what they make together, and how well a measurer repeats.

use serde::{Deserialize, Serialize};

use super::Measurement;

/// The figure that several takes make: the median, which of two is their mean.
///
/// `None` of none.
pub fn median(takes: &[f64]) -> Option<f64> {
    let mut sorted = takes.to_vec();
    sorted.sort_by(f64::total_cmp);
    let middle = sorted.len() / 2;
    match sorted.len() {
        0 => None,
        odd if odd % 2 == 1 => Some(sorted[middle]),
        _ => Some(sorted[middle - 1].midpoint(sorted[middle])),
    }
}

/// Whether two takes lie further apart than the measurement allows: a third is then asked for.
pub fn wants_third(row: &Measurement, takes: &[f64]) -> bool {
    match takes {
        [one, two] => (one - two).abs() > row.repeat_tolerance(one.midpoint(*two)),
        _ => false,
    }
}

/// How well a measurer repeats a measurement.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Precision {
    /// Bodies that were measured more than once.
    pub bodies: usize,
    /// Technical error of measurement, in millimetres.
    pub tem_mm: f64,
    /// The same in hundredths of the mean.
    pub tem_percent: f64,
    /// Two takes of one body differ by less than this in 19 of 20, in millimetres.
    pub repeatability_mm: f64,
}

/// The technical error of measurement over bodies with several takes each, in millimetres.
///
/// With two takes √(Σd²/2n) (Ulijaszek and Kerr, Br J Nutr 82, 1999); with more, the root of the
/// within-body mean square, which is the same for two. `None` without a repeated body.
pub fn precision(bodies: &[Vec<f64>]) -> Option<Precision> {
    let repeated: Vec<_> = bodies.iter().filter(|takes| takes.len() > 1).collect();
    let freedom: usize = repeated.iter().map(|takes| takes.len() - 1).sum();
    if freedom == 0 {
        return None;
    }
    let mean_of = |takes: &[f64]| takes.iter().sum::<f64>() / takes.len() as f64;
    let within = |takes: &&Vec<f64>| {
        let mean = mean_of(takes);
        takes.iter().map(|take| (take - mean).powi(2)).sum::<f64>()
    };
    let tem_mm = (repeated.iter().map(within).sum::<f64>() / freedom as f64).sqrt();
    let all: Vec<f64> = repeated.iter().flat_map(|takes| takes.iter().copied()).collect();
    Some(Precision {
        bodies: repeated.len(),
        tem_mm,
        tem_percent: 100.0 * tem_mm / mean_of(&all),
        repeatability_mm: 1.96 * std::f64::consts::SQRT_2 * tem_mm,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::body::measurement;

    /// Check values, section 7, worked (computed there; invented readings of eight bodies).
    const A: [f64; 8] = [942.0, 968.0, 1010.0, 880.0, 905.0, 1120.0, 990.0, 934.0];
    const B: [f64; 8] = [946.0, 962.0, 1014.0, 883.0, 905.0, 1131.0, 984.0, 937.0];
    const C: [f64; 8] = [944.0, 960.0, 1009.0, 886.0, 908.0, 1124.0, 992.0, 930.0];

    #[test]
    fn two_takes_give_the_worked_technical_error() {
        let bodies: Vec<_> = A.iter().zip(B).map(|(a, b)| vec![*a, b]).collect();
        let found = precision(&bodies).unwrap();
        assert!((found.tem_mm - 3.8971).abs() < 5e-5, "{found:?}");
        assert!((found.tem_percent - 0.4020).abs() < 5e-5, "{found:?}");
        assert!((found.repeatability_mm - 10.802).abs() < 5e-4, "{found:?}");
        assert_eq!(found.bodies, 8);
    }

    #[test]
    fn three_takes_give_the_worked_technical_error() {
        let bodies: Vec<_> = (0..8).map(|i| vec![A[i], B[i], C[i]]).collect();
        assert!((precision(&bodies).unwrap().tem_mm - 3.5532).abs() < 5e-5);
    }

    #[test]
    fn single_takes_say_nothing_about_repeating() {
        assert_eq!(precision(&[vec![900.0], vec![910.0]]), None);
        let one_more = precision(&[vec![900.0], vec![910.0, 914.0]]).unwrap();
        assert_eq!(one_more.bodies, 1);
        assert!((one_more.tem_mm - 8.0_f64.sqrt()).abs() < 1e-12);
    }

    #[test]
    fn a_third_take_is_asked_for_beyond_the_tolerance_and_the_median_counts() {
        let bust = measurement("bust_girth").unwrap();
        assert!(!wants_third(bust, &[900.0, 910.0]));
        assert!(wants_third(bust, &[900.0, 910.5]));
        assert!(!wants_third(bust, &[900.0, 910.5, 903.0]));
        assert!(wants_third(measurement("wrist_girth").unwrap(), &[160.0, 165.5]), "small girths: 5");
        assert!(wants_third(measurement("bust_span").unwrap(), &[190.0, 197.5]), "widths: 7");
        assert_eq!(median(&[900.0, 931.0, 903.0]), Some(903.0));
        assert_eq!(median(&[900.0, 903.0]), Some(901.5));
        assert_eq!(median(&[]), None);
    }
}
