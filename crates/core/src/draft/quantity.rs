//! A figure of a draft that carries its own formula: value, printed formula and terms come from one expression.

use std::ops::{Add, Div, Mul, Sub};

use super::sheet::{StepLine, Term, mm, plain};
use crate::length::short_decimal;

/// How tightly a formula holds together: what binds looser is put in brackets.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord)]
enum Binds {
    Sum,
    Product,
    Whole,
}

/// A length by its name, in millimetres.
pub(super) fn length(name: &'static str, value: f64) -> Quantity {
    Quantity::of(mm(name, value))
}

/// A bare number, a share or an angle by its name.
pub(super) fn number(name: &'static str, value: f64) -> Quantity {
    Quantity::of(plain(name, value))
}

/// A value with the formula it was found by. Built from readings, constants and what was found before, by `+ − × /`.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Quantity {
    value: f64,
    formula: String,
    terms: Vec<Term>,
    binds: Binds,
}

impl Quantity {
    /// A term by its name, as it stands.
    pub(super) fn of(term: Term) -> Self {
        let formula = format!("{{{}}}", term.name);
        Self { value: term.value, formula, terms: vec![term], binds: Binds::Whole }
    }

    /// The smaller of this and another.
    pub(super) fn at_most(self, other: Self) -> Self {
        let formula = format!("the smaller of {} and {}", self.formula, other.formula);
        let terms = [self.terms, other.terms].concat();
        Self { value: self.value.min(other.value), formula, terms, binds: Binds::Sum }
    }

    /// Its square.
    pub(super) fn squared(self) -> Self {
        let whole = self.bracketed(Binds::Whole);
        Self { value: whole.value * whole.value, formula: format!("{}²", whole.formula), ..whole }
    }

    /// Its square root.
    pub(super) fn root(self) -> Self {
        self.function("√", f64::sqrt)
    }

    /// The angle that has it as its sine, in degrees.
    pub(super) fn arcsine(self) -> Self {
        self.function("asin", |value| value.asin().to_degrees())
    }

    /// Of an angle in degrees.
    pub(super) fn cosine(self) -> Self {
        self.function("cos", |degrees| degrees.to_radians().cos())
    }

    /// Of an angle in degrees.
    pub(super) fn tangent(self) -> Self {
        self.function("tan", |degrees| degrees.to_radians().tan())
    }

    fn function(self, name: &str, of: impl Fn(f64) -> f64) -> Self {
        let formula = format!("{name}({})", self.formula);
        Self { value: of(self.value), formula, terms: self.terms, binds: Binds::Whole }
    }

    /// A line of the sheet: what was found, under a name that later formulas call it by.
    pub(super) fn named(self, name: &'static str) -> StepLine {
        StepLine { name, formula: self.formula, terms: self.terms, value: self.value, plain: false }
    }

    /// The same of an angle, in degrees.
    pub(super) fn named_angle(self, name: &'static str) -> StepLine {
        StepLine { plain: true, ..self.named(name) }
    }

    fn bracketed(self, least: Binds) -> Self {
        let formula = if self.binds < least { format!("({})", self.formula) } else { self.formula };
        Self { formula, ..self }
    }

    fn joined(self, sign: char, other: Self, value: f64, binds: Binds, other_binds: Binds) -> Self {
        let (one, other) = (self.bracketed(binds), other.bracketed(other_binds));
        let mut terms = one.terms;
        // A reading that stands twice in a formula is put in once.
        for term in other.terms {
            if !terms.iter().any(|known| known.name == term.name) {
                terms.push(term);
            }
        }
        Self { value, formula: format!("{} {sign} {}", one.formula, other.formula), terms, binds }
    }
}

impl StepLine {
    /// What was found, to find something else by.
    pub(super) fn quantity(&self) -> Quantity {
        Quantity::of(Term { name: self.name, value: self.value, plain: self.plain })
    }
}

/// A number as it stands in a formula, such as the 4 of a quarter.
impl From<f64> for Quantity {
    fn from(number: f64) -> Self {
        Self { value: number, formula: short_decimal(number, 4), terms: Vec::new(), binds: Binds::Whole }
    }
}

impl<T: Into<Quantity>> Add<T> for Quantity {
    type Output = Self;
    fn add(self, other: T) -> Self {
        let other = other.into();
        let value = self.value + other.value;
        self.joined('+', other, value, Binds::Sum, Binds::Sum)
    }
}

impl<T: Into<Quantity>> Sub<T> for Quantity {
    type Output = Self;
    fn sub(self, other: T) -> Self {
        let other = other.into();
        let value = self.value - other.value;
        self.joined('−', other, value, Binds::Sum, Binds::Product)
    }
}

impl<T: Into<Quantity>> Mul<T> for Quantity {
    type Output = Self;
    fn mul(self, other: T) -> Self {
        let other = other.into();
        let value = self.value * other.value;
        self.joined('×', other, value, Binds::Product, Binds::Product)
    }
}

impl<T: Into<Quantity>> Div<T> for Quantity {
    type Output = Self;
    fn div(self, other: T) -> Self {
        let other = other.into();
        let value = self.value / other.value;
        self.joined('/', other, value, Binds::Product, Binds::Whole)
    }
}

#[cfg(test)]
mod tests {
    use super::length as of;
    use super::*;

    #[test]
    fn value_formula_and_terms_come_from_one_expression() {
        let hip = ((of("hip", 1020.0) + of("ease", 40.0)) / 4.0 + of("share", 9.5)).named("front hip");
        assert_eq!(hip.formula, "({hip} + {ease}) / 4 + {share}");
        assert_eq!((hip.value, hip.name), (274.5, "front hip"));
        let names: Vec<_> = hip.terms.iter().map(|term| term.name).collect();
        assert_eq!(names, ["hip", "ease", "share"]);
        let waist = (hip.quantity() - (of("side", 22.5) + of("darts", 36.0))).named("front waist");
        assert_eq!(waist.formula, "{front hip} − ({side} + {darts})");
        assert_eq!(waist.value, 216.0);
    }

    #[test]
    fn brackets_stand_where_they_are_needed_and_a_term_is_put_in_once() {
        let twice = number("share", 0.4) * (of("taken in", 135.0) - of("side", 22.5) * 2.0);
        assert_eq!(twice.formula, "{share} × ({taken in} − {side} × 2)");
        assert!((twice.value - 36.0).abs() < 1e-12);
        let half = of("a", 6.0) / (of("b", 3.0) * 2.0) - (of("a", 6.0) - of("b", 3.0));
        assert_eq!(half.formula, "{a} / ({b} × 2) − ({a} − {b})");
        assert_eq!((half.value, half.terms.len()), (-2.0, 2));
        let legs = (of("a", 3.0).squared() + (of("b", 6.0) - of("c", 2.0)).squared()).root();
        assert_eq!((legs.formula.as_str(), legs.value), ("√({a}² + ({b} − {c})²)", 5.0));
        let turn = Quantity::from(2.0) * (of("a", 6.0) / 2.0 / of("b", 6.0)).arcsine();
        assert_eq!(turn.formula, "2 × asin({a} / 2 / {b})");
        assert!((turn.value - 60.0).abs() < 1e-9);
        let least = (of("a", 6.0) / 6.0).at_most(of("b", 30.0));
        assert_eq!((least.formula.as_str(), least.value), ("the smaller of {a} / 6 and {b}", 1.0));
    }
}
