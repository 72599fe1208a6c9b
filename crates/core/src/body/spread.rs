//! How sure a reading is, and what that makes of every figure that is worked out of readings.
//!
//! A spread is one standard deviation in millimetres: of three figures about two lie within it, of twenty nineteen within
//! twice it. Readings are taken for independent of each other, and spreads are carried first-order: every reading is moved
//! a little, the real function is asked again, and the shares are added as squares (handbook: `compare.md`, section 5).

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{Body, Measurement, Precision, measurement};

/// Two takes of a measurer lie within this many spreads of each other 19 times in 20: 1.96 √2 (check values, section 7).
const REPEATABILITY: f64 = 1.96 * std::f64::consts::SQRT_2;
/// What several takes have left of the spread of one (handbook: `compare.md`, section 5).
const OF_SEVERAL: f64 = 0.7;
/// A measurer's own error is known from so many repeated bodies on: by then it is itself uncertain by a quarter, one over
/// the root of twice their number (common practice, no source).
const KNOWN_FROM: usize = 10;
/// An estimate's give holds nine bodies in ten: so many spreads of a normal figure.
const NINE_IN_TEN: f64 = 1.645;
/// How far a reading is moved to see what that changes, in spreads: far enough for numbers, near enough for a tangent.
const STEP: f64 = 0.25;

/// The spread of a reading, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Spread {
    /// As it stands.
    pub mm: f64,
    /// What would be left of it if the reading were taken once more, the catalogue's way.
    pub again_mm: f64,
}

impl Spread {
    /// Of a figure that is no reading and has no error: a wish.
    const NONE: Self = Self { mm: 0.0, again_mm: 0.0 };

    /// Of a reading: `tape` is the spread of one take, `takes` how many there are, `give` what a conversion is uncertain by
    /// besides; all in millimetres.
    pub fn of_reading(tape: f64, takes: usize, give: f64) -> Self {
        let of_takes = if takes > 1 { OF_SEVERAL * tape } else { tape };
        Self { mm: of_takes.hypot(give), again_mm: OF_SEVERAL * tape }
    }

    /// Of what other readings make of a missing one, whose give holds nine bodies in ten.
    pub fn of_estimate(row: &Measurement, mm: f64, give: f64) -> Self {
        Self { mm: give / NINE_IN_TEN, again_mm: row.spread(mm) }
    }

    /// Of the mean of her left and right.
    pub fn of_sides(left: Self, right: Self) -> Self {
        let mean = |left: f64, right: f64| left.hypot(right) / 2.0;
        Self { mm: mean(left.mm, right.mm), again_mm: mean(left.again_mm, right.again_mm) }
    }

    /// What share of the doubt it brings would be gone after one more take, 0 to 1.
    fn lessened(self) -> f64 {
        if self.mm > 0.0 { 1.0 - (self.again_mm / self.mm).min(1.0).powi(2) } else { 0.0 }
    }
}

impl Measurement {
    /// The spread of one take of a figure of this size, in millimetres, where nothing is known of who took it: what the
    /// tolerance between two takes means. A wish has none.
    pub fn spread(&self, mm: f64) -> f64 {
        if self.wish { 0.0 } else { self.repeat_tolerance(mm) / REPEATABILITY }
    }
}

impl Precision {
    /// The spread of one take by this measurer, in millimetres; `None` from too few bodies.
    pub fn spread(&self) -> Option<f64> {
        (self.bodies >= KNOWN_FROM).then_some(self.tem_mm)
    }
}

impl Body {
    /// The spread of a reading: as it is known, else the catalogue's. `None` where there is no such reading.
    pub fn spread(&self, code: &str) -> Option<Spread> {
        let mm = self.get(code)?;
        let usual =
            || measurement(code).map_or(Spread::NONE, |row| Spread::of_reading(row.spread(mm), 1, 0.0));
        Some(self.spreads.get(code).copied().unwrap_or_else(usual))
    }

    /// The same body with the spread of a reading.
    #[must_use]
    pub fn with_spread(mut self, code: &str, spread: Spread) -> Self {
        self.spreads.insert(code.to_owned(), spread);
        self
    }
}

/// What readings' spreads make of a figure, in millimetres.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Carried {
    /// What one spread of each reading moves the figure by; positive where the two grow together.
    pub by_reading: BTreeMap<String, f64>,
}

impl Carried {
    /// The spread of the figure: the shares added as squares.
    pub fn mm(&self) -> f64 {
        self.by_reading.values().map(|share| share * share).sum::<f64>().sqrt()
    }

    /// The spread of the difference of two figures that hang on the same readings.
    pub fn less(&self, other: &Self) -> Self {
        let mut by_reading = self.by_reading.clone();
        for (code, share) in &other.by_reading {
            *by_reading.entry(code.clone()).or_default() -= share;
        }
        Self { by_reading }
    }

    pub(crate) fn add(&mut self, code: &str, share: f64) {
        *self.by_reading.entry(code.to_owned()).or_default() += share;
    }
}

/// Carries the spreads of a body's readings through a function of it.
///
/// Each reading is moved a quarter of its spread both ways. A figure that one of the two no longer has is followed the
/// other way alone; one that neither has is not said to move with that reading.
///
/// ```
/// use yardwand_core::body::{Body, carried};
///
/// let body: Body = [("bust_girth", 900.0), ("waist_girth", 700.0)].into_iter().collect();
/// let of = |body: &Body| [("sum", body.get("bust_girth").unwrap() + body.get("waist_girth").unwrap())].into();
/// let each = body.spread("bust_girth").unwrap().mm;
/// assert!((carried(&body, of)["sum"].mm() - each * 2.0_f64.sqrt()).abs() < 1e-9);
/// ```
pub fn carried<K: Ord + Clone>(
    body: &Body,
    figures: impl Fn(&Body) -> BTreeMap<K, f64>,
) -> BTreeMap<K, Carried> {
    let now = figures(body);
    let mut all: BTreeMap<K, Carried> = now.keys().map(|key| (key.clone(), Carried::default())).collect();
    let codes: Vec<String> = body.iter().map(|(code, _)| code.to_owned()).collect();
    for code in &codes {
        let Some((mm, spread)) = body.get(code).zip(body.spread(code)).filter(|(_, spread)| spread.mm > 0.0)
        else {
            continue;
        };
        let moved = |by: f64| figures(&body.clone().with(code, mm + by * spread.mm));
        let (more, less) = (moved(STEP), moved(-STEP));
        for (key, carried) in &mut all {
            let share = match (more.get(key), less.get(key)) {
                (Some(more), Some(less)) => (more - less) / (2.0 * STEP),
                (Some(more), None) => (more - now[key]) / STEP,
                (None, Some(less)) => (now[key] - less) / STEP,
                (None, None) => 0.0,
            };
            if share != 0.0 {
                carried.add(code, share);
            }
        }
    }
    all
}

/// One reading's part in a doubt.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DoubtfulReading {
    /// Code of the measurement.
    pub measurement: String,
    /// Its name.
    pub name: String,
    /// How much of the doubt hangs on it, 0 to 1.
    pub share: f64,
    /// How much of the doubt would be gone if it were taken once more, 0 to 1.
    pub lessens: f64,
}

/// Whose doubt hangs on which reading, the one that is best taken again first.
pub(crate) fn doubtful_readings<'a>(
    body: &Body,
    figures: impl IntoIterator<Item = &'a Carried>,
) -> Vec<DoubtfulReading> {
    let mut squares: BTreeMap<&str, f64> = BTreeMap::new();
    for (code, share) in figures.into_iter().flat_map(|figure| &figure.by_reading) {
        *squares.entry(code).or_default() += share * share;
    }
    let all: f64 = squares.values().sum();
    let part = |(code, square): (&str, f64)| DoubtfulReading {
        name: measurement(code).map_or(code, |row| &row.name).to_owned(),
        measurement: code.to_owned(),
        share: square / all,
        lessens: square / all * body.spread(code).map_or(0.0, Spread::lessened),
    };
    let mut readings: Vec<_> = squares.into_iter().filter(|(_, square)| *square > 0.0).map(part).collect();
    readings.sort_by(|a, b| b.lessens.total_cmp(&a.lessens).then(b.share.total_cmp(&a.share)));
    readings
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A spread that is known, for readings the catalogue says otherwise of.
    fn body() -> Body {
        let known = |mm| Spread { mm, again_mm: mm };
        Body::default()
            .with("bust_girth", 900.0)
            .with("waist_girth", 700.0)
            .with_spread("bust_girth", known(3.0))
            .with_spread("waist_girth", known(4.0))
    }

    fn of(body: &Body, figure: impl Fn(f64, f64) -> f64) -> f64 {
        let both = |body: &Body| (body.get("bust_girth").unwrap(), body.get("waist_girth").unwrap());
        let figures = |body: &Body| {
            let (bust, waist) = both(body);
            BTreeMap::from([((), figure(bust, waist))])
        };
        carried(body, figures)[&()].mm()
    }

    /// Closed forms of first-order error propagation: sum √(a² + b²), ratio q √((a/x)² + (b/y)²), root a / (2 √x), product.
    #[test]
    fn closed_forms() {
        let is =
            |found: f64, wanted: f64| assert!((found - wanted).abs() < 2e-5 * wanted, "{found} for {wanted}");
        is(of(&body(), |x, y| x + y), 5.0);
        is(of(&body(), |x, y| x - y), 5.0);
        is(of(&body(), |x, y| (x - y) / 4.0), 1.25);
        is(of(&body(), |x, y| x / y), 900.0 / 700.0 * (3.0_f64 / 900.0).hypot(4.0 / 700.0));
        is(of(&body(), |x, _| x.sqrt()), 3.0 / (2.0 * 30.0));
        is(of(&body(), |x, y| x * y), (700.0_f64 * 3.0).hypot(900.0 * 4.0));
        // What two figures share cancels in their difference.
        let figures = |body: &Body| {
            let (x, y) = (body.get("bust_girth").unwrap(), body.get("waist_girth").unwrap());
            BTreeMap::from([("sum", x + y), ("bust", x)])
        };
        let found = carried(&body(), figures);
        is(found["sum"].less(&found["bust"]).mm(), 4.0);
    }

    #[test]
    fn a_figure_that_stops_on_one_side_is_followed_the_other_way() {
        let figures = |body: &Body| {
            let bust = body.get("bust_girth").unwrap();
            (bust <= 900.0).then_some(((), 2.0 * bust)).into_iter().collect()
        };
        assert!((carried(&body(), figures)[&()].mm() - 6.0).abs() < 1e-9);
    }

    /// Two takes of the catalogue lie within 10, 5 and 7 in 19 of 20 (handbook: `measuring.md`, section 4, rule 5).
    #[test]
    fn the_catalogues_spread_is_what_its_tolerance_means() {
        let spread = |code: &str, mm: f64| measurement(code).unwrap().spread(mm);
        for (code, mm, tolerance) in
            [("bust_girth", 900.0, 10.0), ("wrist_girth", 160.0, 5.0), ("across_back", 340.0, 7.0)]
        {
            assert!((1.96 * 2.0_f64.sqrt() * spread(code, mm) - tolerance).abs() < 1e-9, "{code}");
        }
        assert_eq!(spread("sleeve_length", 600.0), 0.0, "a wish is what it is");
    }

    /// Handbook: `compare.md`, section 5: a median of three × 0.7, a conversion as squares.
    #[test]
    fn takes_and_conversions() {
        assert_eq!(Spread::of_reading(3.0, 1, 0.0), Spread { mm: 3.0, again_mm: 2.0999999999999996 });
        assert!((Spread::of_reading(3.0, 3, 0.0).mm - 2.1).abs() < 1e-12);
        assert!((Spread::of_reading(3.0, 1, 4.0).mm - 5.0).abs() < 1e-12);
        assert_eq!(Spread::of_reading(3.0, 3, 0.0).lessened(), 0.0, "three takes say what they can");
        let one = Spread { mm: 6.0, again_mm: 6.0 };
        assert!((Spread::of_sides(one, one).mm - 6.0 / 2.0_f64.sqrt()).abs() < 1e-12);
    }

    #[test]
    fn a_measurers_own_error_is_known_from_ten_bodies_on() {
        let precision = |bodies| Precision { bodies, tem_mm: 2.0, tem_percent: 1.0, repeatability_mm: 5.5 };
        assert_eq!(precision(9).spread(), None);
        assert_eq!(precision(10).spread(), Some(2.0));
    }

    #[test]
    fn the_reading_that_lessens_most_comes_first() {
        // The bust holds more of the doubt, but was taken three times already.
        let body = body()
            .with_spread("bust_girth", Spread::of_reading(6.0, 3, 0.0))
            .with_spread("waist_girth", Spread::of_reading(3.0, 1, 0.0));
        let figures = |body: &Body| {
            BTreeMap::from([((), body.get("bust_girth").unwrap() + body.get("waist_girth").unwrap())])
        };
        let carried = carried(&body, figures);
        let readings = doubtful_readings(&body, carried.values());
        assert_eq!(readings[0].measurement, "waist_girth");
        assert!(readings[1].share > readings[0].share && readings[1].lessens == 0.0);
        assert!((readings.iter().map(|reading| reading.share).sum::<f64>() - 1.0).abs() < 1e-12);
        // Waist 3² of 4.2² + 3²; once more leaves 0.49 of it.
        let waist = 9.0 / (4.2_f64.powi(2) + 9.0);
        assert!(
            (readings[0].share - waist).abs() < 1e-9 && (readings[0].lessens - 0.51 * waist).abs() < 1e-9
        );
    }
}
