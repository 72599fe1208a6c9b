//! What an alteration can be told: its parameters, the values given for them, and how an amount is said.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::AlterError;
use crate::{Length, PerEdge, PerHalf, Style};

/// Lengths under this are nothing, in millimetres.
const LEAST: f64 = 0.05;
/// Shares under this are nothing.
const LEAST_SHARE: f64 = 0.0005;

/// What a value is measured on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum MeasuredOn {
    /// One half pattern: the body gains twice as much.
    PerHalf,
    /// One edge of a seam: front and back together gain twice as much, the body four times.
    PerEdge,
    /// Along a seam, front and back alike.
    PerSeam,
    /// Each side of the body.
    PerSide,
    /// A pinned tuck, its whole width: what stands up is half of it.
    Pinned,
    /// Once, where it is done.
    Here,
    /// A place on the pattern or the body.
    Place,
    /// A share of something, no length.
    Share,
    /// One of several ways.
    Choice,
}

impl MeasuredOn {
    /// How many such parts go round the body: two halves, four seam edges; one where it is said as it is.
    pub const fn parts(self) -> u32 {
        match self {
            Self::PerHalf => 2,
            Self::PerEdge => 4,
            _ => 1,
        }
    }

    /// In the trade's words.
    pub const fn words(self) -> &'static str {
        match self {
            Self::PerHalf => "per half",
            Self::PerEdge => "on each edge",
            Self::PerSeam => "on the seam, front and back",
            Self::PerSide => "on each side",
            Self::Pinned => "taken in",
            Self::Here | Self::Place | Self::Share | Self::Choice => "here",
        }
    }
}

/// A length and what it is measured on: a bare number could be a half's or the body's.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Measured {
    /// In millimetres.
    pub mm: f64,
    /// On what.
    pub on: MeasuredOn,
}

impl Measured {
    /// Its size, written in the house's style.
    fn written(self, style: Style) -> String {
        style.part_with_unit(self.mm.abs(), self.on.parts())
    }

    /// This one and another, written so that they can be told apart: exactly, where the house's rounding writes both alike.
    pub(super) fn written_beside(self, other: Self, style: Style) -> (String, String) {
        let both = (self.written(style), other.written(style));
        if both.0 != both.1 {
            return both;
        }
        let exactly = |it: Self| format!("{} {}", style.exact(it.mm.abs()), style.unit().suffix());
        (exactly(self), exactly(other))
    }
}

/// One of several ways: stable code and the trade's words.
pub type Way = (&'static str, &'static str);

/// Something an alteration can be told.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Param {
    /// Stable code; `amount` for the amount.
    pub code: &'static str,
    /// The trade's words.
    pub name: &'static str,
    /// What it is measured on.
    pub on: MeasuredOn,
    /// Least value: millimetres, or a share.
    pub low: f64,
    /// Greatest value: millimetres, or a share.
    pub high: f64,
    /// Where it stands unless told otherwise. `None`: left to the alteration.
    pub default: Option<f64>,
    /// The ways there are to choose from; the first is the usual one.
    pub ways: &'static [Way],
    /// What it does.
    pub why: &'static str,
    /// It matters on some patterns only: told where it was chosen, not as the usual way.
    pub told_where_chosen: bool,
}

impl Param {
    /// What all of them are built from: a choice without ways.
    const fn plain(code: &'static str, name: &'static str, why: &'static str) -> Self {
        Self {
            code,
            name,
            on: MeasuredOn::Choice,
            low: 0.0,
            high: 0.0,
            default: None,
            ways: &[],
            why,
            told_where_chosen: false,
        }
    }

    /// The amount itself, from `low` to `high` millimetres, nothing unless it is told.
    pub(super) const fn amount(
        name: &'static str,
        on: MeasuredOn,
        (low, high): (f64, f64),
        why: &'static str,
    ) -> Self {
        Self { on, low, high, default: Some(0.0), ..Self::plain("amount", name, why) }
    }

    /// A length of what is made that, decided again, is another length and not more of it; left to the alteration until it is told.
    pub(super) const fn size(name: &'static str, (low, high): (f64, f64), why: &'static str) -> Self {
        Self { default: None, ..Self::amount(name, MeasuredOn::Here, (low, high), why) }
    }

    /// Whether more of it is added to what is there: a length that is nothing unless it is told.
    pub(crate) fn is_added(&self) -> bool {
        !matches!(self.on, MeasuredOn::Share | MeasuredOn::Choice) && self.default == Some(0.0)
    }

    /// A place or another length, in millimetres.
    pub(super) const fn place(
        code: &'static str,
        name: &'static str,
        (low, high): (f64, f64),
        default: Option<f64>,
        why: &'static str,
    ) -> Self {
        Self { on: MeasuredOn::Place, low, high, default, ..Self::plain(code, name, why) }
    }

    /// A share.
    pub(super) const fn share(
        code: &'static str,
        name: &'static str,
        (low, high): (f64, f64),
        default: Option<f64>,
        why: &'static str,
    ) -> Self {
        Self { on: MeasuredOn::Share, low, high, default, ..Self::plain(code, name, why) }
    }

    /// One of several ways; the first is the usual one.
    pub(super) const fn way(
        code: &'static str,
        name: &'static str,
        ways: &'static [Way],
        why: &'static str,
    ) -> Self {
        Self { ways, ..Self::plain(code, name, why) }
    }
}

/// A value: millimetres, a share, or the code of a way.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(untagged)]
pub enum Setting {
    /// Millimetres or a share.
    Number(f64),
    /// Code of a way.
    Way(String),
}

/// Values by parameter code: millimetres, shares or codes of ways.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Amounts(pub BTreeMap<String, Setting>);

impl Amounts {
    /// Just the amount, in millimetres.
    pub fn of(mm: f64) -> Self {
        Self::default().with("amount", mm)
    }

    /// The same with one more number.
    #[must_use]
    pub fn with(mut self, code: &str, value: f64) -> Self {
        self.0.insert(code.to_owned(), Setting::Number(value));
        self
    }

    /// The same, done in one of the ways there are.
    #[must_use]
    pub fn by(mut self, code: &str, way: &str) -> Self {
        self.0.insert(code.to_owned(), Setting::Way(way.to_owned()));
        self
    }

    /// Just those of certain codes.
    #[must_use]
    pub fn of_codes(&self, is_wanted: impl Fn(&str) -> bool) -> Self {
        let wanted = self.0.iter().filter(|(code, _)| is_wanted(code));
        Self(wanted.map(|(code, set)| (code.clone(), set.clone())).collect())
    }

    /// The same with these set over them.
    #[must_use]
    pub fn over(mut self, others: &Self) -> Self {
        self.0.extend(others.0.iter().map(|(code, set)| (code.clone(), set.clone())));
        self
    }

    /// The amount, in millimetres, as far as it was given.
    pub fn amount(&self) -> f64 {
        match self.0.get("amount") {
            Some(Setting::Number(mm)) => *mm,
            _ => 0.0,
        }
    }

    /// Just the lengths that are added to those of a step.
    pub(super) fn added(&self, params: &[Param]) -> Self {
        let is_added = |code: &str| params.iter().any(|param| param.code == code && param.is_added());
        Self(
            self.0
                .iter()
                .filter(|(code, _)| is_added(code))
                .map(|(code, set)| (code.clone(), set.clone()))
                .collect(),
        )
    }

    /// The same with the lengths of another added; ways and places stay.
    #[must_use]
    pub(super) fn and_more(mut self, more: &Self, params: &[Param]) -> Self {
        for (code, set) in more.added(params).0 {
            if let Setting::Number(mm) = set {
                let own = match self.0.get(&code) {
                    Some(Setting::Number(own)) => *own,
                    _ => 0.0,
                };
                self = self.with(&code, own + mm);
            }
        }
        self
    }

    /// Whether every value is a length that can be added to a step of an alteration with these parameters.
    ///
    /// # Errors
    ///
    /// [`AlterError::NoFigure`] or [`AlterError::UnknownParam`].
    pub(super) fn validate_added(&self, params: &[Param]) -> Result<(), AlterError> {
        for (code, set) in &self.0 {
            let param = params
                .iter()
                .find(|param| param.code == code && param.is_added())
                .ok_or_else(|| AlterError::UnknownParam(code.clone()))?;
            if !matches!(set, Setting::Number(mm) if mm.is_finite()) {
                return Err(AlterError::NoFigure { name: param.name });
            }
        }
        Ok(())
    }

    /// Whether every value is known, a number within its range, or one of the ways there are.
    ///
    /// # Errors
    ///
    /// [`AlterError::OutOfRange`], [`AlterError::NoFigure`], [`AlterError::UnknownWay`] or
    /// [`AlterError::UnknownParam`].
    pub fn validate(&self, params: &[Param], style: Style) -> Result<(), AlterError> {
        for (code, value) in &self.0 {
            let param = params
                .iter()
                .find(|p| p.code == code)
                .ok_or_else(|| AlterError::UnknownParam(code.clone()))?;
            match value {
                Setting::Number(value) if param.on != MeasuredOn::Choice => in_range(param, *value, style)?,
                Setting::Way(way) if param.ways.iter().any(|(known, _)| known == way) => {}
                Setting::Way(_) if param.on != MeasuredOn::Choice => {
                    return Err(AlterError::NoFigure { name: param.name });
                }
                _ => {
                    let ways: Vec<&str> = param.ways.iter().map(|(_, name)| *name).collect();
                    return Err(AlterError::UnknownWay { name: param.name, ways: ways.join(", ") });
                }
            }
        }
        Ok(())
    }
}

fn in_range(param: &Param, value: f64, style: Style) -> Result<(), AlterError> {
    if (param.low..=param.high).contains(&value) {
        return Ok(());
    }
    let rounded = |v: f64| match param.on {
        MeasuredOn::Share => format!("{v:.2}"),
        _ => style.with_unit(v),
    };
    let exact = |v: f64| match param.on {
        MeasuredOn::Share => format!("{v}"),
        _ => format!("{} {}", style.exact(v), style.unit().suffix()),
    };
    // A limit is never refused in its own words: where rounding would write both alike they are written exactly.
    let alike = [param.low, param.high].into_iter().any(|limit| rounded(limit) == rounded(value));
    let write = |v: f64| if alike { exact(v) } else { rounded(v) };
    Err(AlterError::OutOfRange {
        name: param.name,
        asked: write(value),
        low: write(param.low),
        high: write(param.high),
    })
}

/// Amounts as an alteration reads them: what was given, or the parameter's own default.
#[derive(Clone, Copy, Debug)]
pub struct Args<'a> {
    params: &'static [Param],
    amounts: &'a Amounts,
}

impl<'a> Args<'a> {
    /// The amounts as an alteration with these parameters reads them.
    pub fn new(params: &'static [Param], amounts: &'a Amounts) -> Self {
        Self { params, amounts }
    }

    /// The amount, in millimetres.
    pub fn amount(&self) -> f64 {
        self.of("amount")
    }

    /// The amounts as they were told.
    pub(super) const fn amounts(&self) -> &'a Amounts {
        self.amounts
    }

    /// The amount, as one half pattern carries it.
    pub(super) fn per_half(&self) -> PerHalf {
        PerHalf(Length::from_mm(self.amount()))
    }

    /// A number, as one edge of a seam carries it.
    pub(super) fn per_edge(&self, code: &str) -> PerEdge {
        PerEdge(Length::from_mm(self.of(code)))
    }

    /// A number that has a default.
    pub(super) fn of(&self, code: &str) -> f64 {
        self.number(code).unwrap_or_default()
    }

    /// A number; `None` where it is left to the alteration.
    pub(super) fn number(&self, code: &str) -> Option<f64> {
        match self.amounts.0.get(code) {
            Some(Setting::Number(value)) => Some(if self.is_too_little(code, *value) { 0.0 } else { *value }),
            _ => self.params.iter().find(|param| param.code == code).and_then(|param| param.default),
        }
    }

    /// Whether a value is too small to be meant: no chalk line shows it.
    fn is_too_little(&self, code: &str, value: f64) -> bool {
        let param = self.params.iter().find(|param| param.code == code);
        let least = if param.is_some_and(|p| p.on == MeasuredOn::Share) { LEAST_SHARE } else { LEAST };
        value.abs() < least
    }

    /// Whether a later decision leaves a way or a place as it is here: it names the same, or no place.
    pub(super) fn agrees(&self, later: &Args<'_>, param: &Param) -> bool {
        match param.on {
            MeasuredOn::Choice => self.way(param.code) == later.way(param.code),
            _ => {
                !later.amounts.0.contains_key(param.code)
                    || self.number(param.code) == later.number(param.code)
            }
        }
    }

    /// The chosen way, or the usual one.
    pub(super) fn way(&self, code: &str) -> &str {
        match self.amounts.0.get(code) {
            Some(Setting::Way(way)) => way,
            _ => {
                let param = self.params.iter().find(|param| param.code == code);
                param.and_then(|param| param.ways.first()).map_or("", |(way, _)| way)
            }
        }
    }
}

/// An amount in each of the dressmaker's ways of saying it: on what, and millimetres.
pub(crate) fn said(on: MeasuredOn, mm: f64) -> Vec<(&'static str, f64)> {
    let on_body = |half: f64| PerHalf(Length::from_mm(half)).on_body().0.mm();
    let own = (on.words(), mm);
    match on {
        MeasuredOn::PerHalf => vec![("on the body", on_body(mm)), own],
        MeasuredOn::PerEdge => {
            vec![("on the body", on_body(2.0 * mm)), (MeasuredOn::PerHalf.words(), 2.0 * mm), own]
        }
        MeasuredOn::Pinned => vec![own, ("as the tuck stands up", mm / 2.0)],
        _ => vec![own],
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const PARAM: Param = Param::amount("Rounded back", MeasuredOn::Here, (-20.0, 120.65), "");

    #[test]
    fn a_limit_is_never_refused_in_its_own_words() {
        let refused = in_range(&PARAM, 120.7, Style::EIGHTHS).unwrap_err().to_string();
        assert_eq!(refused, "Rounded back is 4.752 in: it must lie between \u{2212}0.787 in and 4.75 in");
        let refused = in_range(&PARAM, 140.0, Style::EIGHTHS).unwrap_err().to_string();
        assert_eq!(refused, "Rounded back is 5 1/2 in: it must lie between \u{2212}3/4 in and 4 3/4 in");
    }

    #[test]
    fn what_no_chalk_shows_is_nothing() {
        const PARAMS: &[Param] = &[PARAM];
        for (mm, read) in [(1e-7, 0.0), (-0.049, 0.0), (0.05, 0.05), (-3.0, -3.0)] {
            assert_eq!(Args::new(PARAMS, &Amounts::of(mm)).amount(), read);
        }
    }
}
