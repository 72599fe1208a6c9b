//! Figures that a workroom says in round numbers: each in inches and in centimetres, and a house uses its own.

use crate::{INCH, Unit};

/// A figure of the trade as it is said in either system: 2 in, or 5 cm. Neither is converted into the other.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Natural {
    inches: f64,
    mm: f64,
}

impl Natural {
    /// The figure in inches, and in millimetres as houses of centimetres have it.
    pub const fn new(inches: f64, mm: f64) -> Self {
        Self { inches, mm }
    }

    /// The figure of houses with this unit, in millimetres.
    pub const fn in_unit(self, unit: Unit) -> f64 {
        match unit {
            Unit::Inch => self.inches * INCH,
            Unit::Cm | Unit::Mm => self.mm,
        }
    }

    /// The same figure for a house with another unit, where it is the natural one of either; another figure stays.
    ///
    /// ```
    /// use yardwand_core::{INCH, Natural, Unit};
    ///
    /// let finger = Natural::new(0.5, 12.5);
    /// assert_eq!(finger.or_own(12.5, Unit::Inch), 0.5 * INCH);
    /// assert_eq!(finger.or_own(14.0, Unit::Inch), 14.0, "what a house has chosen stays");
    /// ```
    pub fn or_own(self, mm: f64, unit: Unit) -> f64 {
        let is_natural = |of: Unit| (self.in_unit(of) - mm).abs() < 1e-6;
        if is_natural(Unit::Inch) || is_natural(Unit::Cm) { self.in_unit(unit) } else { mm }
    }
}
