//! Reading and writing a length the way a tape says it.
//!
//! The canonical length is millimetres. What was typed is kept beside it ([`Entered`]), so that a
//! profile entered in eighths reads back in eighths. Rounding happens once, when a length is
//! written ([`Style`]); sums are done on the exact value.

use serde::{Deserialize, Serialize};

use crate::INCH;

/// The longest length that is read, in millimetres: no tape is longer.
pub(crate) const LONGEST: f64 = 3000.0;

/// "A thread over" or "under": a sixteenth of an inch.
const THREAD: f64 = INCH / 16.0;

/// A length in millimetres, signed where it is a difference.
#[derive(Clone, Copy, Debug, Default, PartialEq, PartialOrd, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Length(f64);

impl Length {
    /// A length of so many millimetres.
    pub const fn from_mm(mm: f64) -> Self {
        Self(mm)
    }

    /// A length of so many inches.
    pub const fn from_inches(inches: f64) -> Self {
        Self(inches * INCH)
    }

    /// Millimetres.
    pub const fn mm(self) -> f64 {
        self.0
    }

    /// Reads what was typed; `unit` is meant where the text names none.
    ///
    /// ```
    /// use yardwand_core::{Length, Unit};
    ///
    /// assert_eq!(Length::read("37 3/8", Unit::Inch)?.length, Length::from_inches(37.375));
    /// assert_eq!(Length::read("94,9 cm", Unit::Inch)?.length, Length::from_mm(949.0));
    /// # Ok::<(), yardwand_core::LengthError>(())
    /// ```
    ///
    /// # Errors
    ///
    /// [`LengthError`] with the place in the text and the reason.
    pub fn read(text: &str, unit: Unit) -> Result<Entered, LengthError> {
        Reader::new(text).read(unit)
    }

    /// Reads an amount, in millimetres: a length that may have a sign. Readings of a body have none.
    ///
    /// # Errors
    ///
    /// [`LengthError`] with the place in the text and the reason.
    pub fn read_signed(text: &str, unit: Unit) -> Result<f64, LengthError> {
        let minus = ['-', '\u{2212}'];
        let trimmed = text.trim_start();
        let bare = trimmed.strip_prefix(['-', '\u{2212}', '+']).unwrap_or(trimmed);
        let sign = if trimmed.starts_with(minus) { -1.0 } else { 1.0 };
        let before = text.chars().count() - bare.chars().count();
        let entered =
            Self::read(bare, unit).map_err(|error| LengthError { at: error.at + before, ..error })?;
        Ok(sign * entered.length.mm())
    }
}

/// A unit a tape is marked in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "lowercase")]
pub enum Unit {
    /// Inches, with fractions.
    Inch,
    /// Centimetres.
    Cm,
    /// Millimetres.
    Mm,
}

impl Unit {
    /// Millimetres in one of it.
    pub const fn in_mm(self) -> f64 {
        match self {
            Self::Inch => INCH,
            Self::Cm => 10.0,
            Self::Mm => 1.0,
        }
    }

    /// The unit in a sentence.
    pub const fn plural(self) -> &'static str {
        match self {
            Self::Inch => "inches",
            Self::Cm => "centimetres",
            Self::Mm => "millimetres",
        }
    }

    /// How it is written behind a figure.
    pub const fn suffix(self) -> &'static str {
        match self {
            Self::Inch => "in",
            Self::Cm => "cm",
            Self::Mm => "mm",
        }
    }
}

/// A length together with how it was typed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Entered {
    /// The exact length.
    pub length: Length,
    /// The text, trimmed, as it was typed.
    pub typed: String,
    /// The unit it was meant in.
    pub unit: Unit,
}

impl Entered {
    /// The text with its unit, for a place where the session's unit is not in sight.
    pub fn with_unit(&self) -> String {
        let names_unit =
            self.typed.ends_with(|c: char| c.is_alphabetic() || "\"\u{2033}\u{201d}".contains(c));
        if names_unit { self.typed.clone() } else { format!("{} {}", self.typed, self.unit.suffix()) }
    }
}

/// Why a text is no length, and where in it.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[error("{fault}")]
pub struct LengthError {
    /// Characters before the fault.
    pub at: usize,
    /// What is wrong.
    pub fault: LengthFault,
}

/// What is wrong with a text that should be a length.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum LengthFault {
    /// Nothing was typed.
    #[error("nothing is typed: give a length such as 37 3/8 or 94,9 cm")]
    Empty,
    /// A character that belongs to no length.
    #[error("\u{201c}{0}\u{201d} is not part of a length: write it like 37 3/8 or 94,9 cm")]
    NotANumber(char),
    /// A minus in front.
    #[error("a length on the body is never negative: leave out the minus")]
    Negative,
    /// A denominator no tape is marked in.
    #[error("a tape has no 1/{0}: use halves, quarters, eighths, sixteenths or thirty-seconds")]
    Denominator(u32),
    /// A fraction of one or more behind a whole number.
    #[error("{0}/{1} is a whole inch or more: carry it into the number before it")]
    TopHeavy(u32, u32),
    /// Two numbers where one is expected.
    #[error("there are two numbers: write one length, such as 37 3/8")]
    TwoNumbers,
    /// Longer than any tape.
    #[error("that is over 3 m (118 in): check the unit")]
    TooLong,
}

/// How lengths are written: a house choice.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case", tag = "unit")]
pub enum Style {
    /// Inches to the nearest `1/denominator`, reduced.
    Inch {
        /// 4, 8, 16 or 32.
        denominator: u32,
    },
    /// Centimetres to the nearest half or tenth.
    Cm {
        /// Steps in a centimetre: 2 or 10.
        steps: u32,
    },
}

impl Style {
    /// Inches to the nearest eighth.
    pub const EIGHTHS: Self = Self::Inch { denominator: 8 };
    /// Centimetres to the nearest millimetre.
    pub const TENTHS: Self = Self::Cm { steps: 10 };

    /// The unit a figure typed in this style is meant in.
    pub const fn unit(self) -> Unit {
        match self {
            Self::Inch { .. } => Unit::Inch,
            Self::Cm { .. } => Unit::Cm,
        }
    }

    /// The length rounded once, in words: `37 3/8`, `94.9`. No unit.
    pub fn write(self, length: Length) -> String {
        let sign = if length.0 < 0.0 { "\u{2212}" } else { "" };
        let text = match self {
            Self::Inch { denominator } => write_fraction(length.0.abs() / INCH, denominator.max(1)),
            Self::Cm { steps } => {
                let steps = f64::from(steps.max(1));
                format!("{:.1}", (length.0.abs() / 10.0 * steps).round() / steps)
            }
        };
        let is_zero = matches!(text.as_str(), "0" | "0.0");
        if is_zero { text } else { format!("{sign}{text}") }
    }

    /// One step of this style: what an arrow key adds.
    pub fn step(self) -> Length {
        match self {
            Self::Inch { denominator } => Length(INCH / f64::from(denominator.max(1))),
            Self::Cm { steps } => Length(10.0 / f64::from(steps.max(1))),
        }
    }

    /// The length as value and words.
    pub fn show(self, mm: f64) -> Shown {
        self.shown(mm, mm)
    }

    /// What a row shows as `minuend` less `subtrahend`: the difference of the two figures as they are written, so that
    /// the row obeys its own sum. The exact difference is kept beside it.
    ///
    /// ```
    /// use yardwand_core::{INCH, Style};
    ///
    /// // Written 9 1/8 and 8 7/8; exactly they are 0.3 in apart, which alone would be written 1/4 or 3/8.
    /// let row = Style::EIGHTHS.difference(9.18 * INCH, 8.86 * INCH);
    /// assert_eq!(row.text, "1/4");
    /// ```
    pub fn difference(self, minuend: f64, subtrahend: f64) -> Shown {
        self.shown(minuend - subtrahend, self.written(minuend) - self.written(subtrahend))
    }

    /// What a row shows as the sum of its parts: the parts as they are written, added.
    pub fn sum(self, parts: impl IntoIterator<Item = f64>) -> Shown {
        let (exact, written) = parts
            .into_iter()
            .fold((0.0, 0.0), |(exact, written), mm| (exact + mm, written + self.written(mm)));
        self.shown(exact, written)
    }

    /// A spread as a reader sees it: on the tape's nearest mark, and never less than one.
    ///
    /// ```
    /// use yardwand_core::{INCH, Style};
    ///
    /// assert_eq!(Style::EIGHTHS.spread(0.14 * INCH).text, "1/8");
    /// assert_eq!(Style::EIGHTHS.spread(0.03 * INCH).text, "1/8");
    /// ```
    pub fn spread(self, mm: f64) -> Shown {
        self.spread_part(mm, 1)
    }

    /// As [`Self::spread`], of one of so many equal parts.
    pub fn spread_part(self, mm: f64, parts: u32) -> Shown {
        let least = self.step().0 / f64::from(parts.max(1));
        self.shown_in_parts(mm, self.written_part(mm, parts).max(least), parts)
    }

    /// What one of `parts` equal parts shows, so that all of them together are the whole as it is written: a difference of
    /// 3/8 on the body is 3/16 on each half.
    ///
    /// ```
    /// use yardwand_core::{INCH, Style};
    ///
    /// assert_eq!(Style::EIGHTHS.part(0.16 * INCH, 2).text, "3/16");
    /// assert_eq!(Style::EIGHTHS.part(0.25 * INCH, 2).text, "1/4");
    /// ```
    pub fn part(self, mm: f64, parts: u32) -> Shown {
        self.shown_in_parts(mm, self.written_part(mm, parts), parts)
    }

    /// The length that the words of [`Self::part`] stand for, in millimetres. No tape has marks finer than
    /// [`FINEST_FRACTION`]: where the parts would need them the whole is taken on a coarser mark.
    pub fn written_part(self, mm: f64, parts: u32) -> f64 {
        let parts = parts.max(1);
        let whole = match self {
            Self::Inch { denominator } => {
                Self::Inch { denominator: denominator.max(1).min((FINEST_FRACTION / parts).max(1)) }
            }
            Self::Cm { .. } => self,
        };
        whole.written(mm * f64::from(parts)) / f64::from(parts)
    }

    /// As [`Self::part`], with its unit.
    pub fn part_with_unit(self, mm: f64, parts: u32) -> String {
        format!("{} {}", self.part(mm, parts).text, self.unit().suffix())
    }

    /// Whether two lengths are written alike.
    pub fn is_alike(self, one: f64, other: f64) -> bool {
        self.written(one) == self.written(other)
    }

    /// The length that the words stand for: rounded to the nearest mark of the tape, in millimetres.
    pub fn written(self, mm: f64) -> f64 {
        let step = self.step().0;
        (mm.abs() / step).round().copysign(mm) * step
    }

    /// A row's figure whose words stand for another length than its exact one.
    pub fn shown(self, exact: f64, written: f64) -> Shown {
        Shown { mm: exact, text: self.write(Length(written)), exact: self.exact(exact) }
    }

    /// Half of a length as it is written: one finer mark where the tape's own marks cannot halve it.
    pub fn half_of(self, mm: f64, written: f64) -> Shown {
        self.shown_in_parts(mm / 2.0, written / 2.0, 2)
    }

    /// As [`Self::shown`], for words that stand for one of so many equal parts of what the tape's marks show, or for several
    /// of them: on finer marks where the tape's own cannot divide it.
    pub fn shown_in_parts(self, exact: f64, written: f64, parts: u32) -> Shown {
        Shown { mm: exact, text: self.write_part(written, parts), exact: self.exact(exact) }
    }

    fn write_part(self, mm: f64, parts: u32) -> String {
        match self {
            Self::Inch { denominator } => {
                Self::Inch { denominator: (denominator.max(1) * parts.max(1)).min(FINEST_FRACTION) }
                    .write(Length(mm))
            }
            Self::Cm { .. } if (Self::TENTHS.written(mm) - mm).abs() < SAME => Self::TENTHS.write(Length(mm)),
            Self::Cm { .. } => short_decimal(mm / 10.0, 3),
        }
    }

    /// The length to a thousandth of the unit, for checking by: `37.375`. No unit.
    pub fn exact(self, mm: f64) -> String {
        short_decimal(mm / self.unit().in_mm(), 3)
    }

    /// The length as it is typed into a field of this house: exactly where it lies on a mark of the tape or on a finer
    /// one of its unit, otherwise rounded to the house's marks. No unit.
    pub fn typed(self, mm: f64) -> String {
        self.typed_finely(mm).unwrap_or_else(|| self.write(Length(mm)))
    }

    /// As [`Self::typed`], for one of so many equal parts of a whole: where it lies on no mark it is rounded as
    /// [`Self::part`] is.
    pub fn typed_part(self, mm: f64, parts: u32) -> String {
        self.typed_finely(mm).unwrap_or_else(|| self.part(mm, parts).text)
    }

    /// The length as it is typed so that it reads back as the very same: a mark of the tape or a finer one, one of the
    /// other system with its unit, or decimals.
    ///
    /// ```
    /// use yardwand_core::{INCH, Style};
    ///
    /// assert_eq!(Style::EIGHTHS.typed_exactly(2.0 * INCH), "2");
    /// assert_eq!(Style::EIGHTHS.typed_exactly(0.3125 * INCH), "5/16");
    /// assert_eq!(Style::EIGHTHS.typed_exactly(25.0), "2.5 cm");
    /// assert_eq!(Style::TENTHS.typed_exactly(12.7), "1/2 in");
    /// ```
    pub fn typed_exactly(self, mm: f64) -> String {
        let other = match self {
            Self::Inch { .. } => Self::TENTHS,
            Self::Cm { .. } => Self::EIGHTHS,
        };
        let in_other = || other.typed_finely(mm).map(|text| format!("{text} {}", other.unit().suffix()));
        self.typed_finely(mm).or_else(in_other).unwrap_or_else(|| short_decimal(mm / self.unit().in_mm(), 6))
    }

    /// As finely as a tape of this unit is marked anywhere.
    pub const fn finest(self) -> Self {
        match self {
            Self::Inch { .. } => Self::Inch { denominator: FINEST_FRACTION },
            Self::Cm { .. } => Self::TENTHS,
        }
    }

    /// The length on a mark of this style or on a finer one of its unit, where it lies on one.
    fn typed_finely(self, mm: f64) -> Option<String> {
        let finer = match self {
            Self::Inch { .. } => [self, Self::Inch { denominator: 16 }, Self::Inch { denominator: 32 }],
            Self::Cm { .. } => [self, Self::TENTHS, Self::TENTHS],
        };
        finer
            .into_iter()
            .find(|style| (style.written(mm) - mm).abs() < SAME)
            .map(|style| style.write(Length(mm)))
    }

    /// A limit with its unit, taken inwards to a mark of the tape: the least that a field takes.
    pub fn least_mark(self, mm: f64) -> String {
        self.with_unit(((mm - SAME) / self.step().0).ceil() * self.step().0)
    }

    /// A limit with its unit, taken inwards to a mark of the tape: the most that a field takes.
    pub fn greatest_mark(self, mm: f64) -> String {
        self.with_unit(((mm + SAME) / self.step().0).floor() * self.step().0)
    }

    /// A row's figure with the unit, without its sign.
    pub fn in_words(self, shown: &Shown) -> String {
        format!("{} {}", shown.text.trim_start_matches('\u{2212}'), self.unit().suffix())
    }

    /// The words with the unit: `37 3/8 in`.
    pub fn with_unit(self, mm: f64) -> String {
        format!("{} {}", self.write(Length(mm)), self.unit().suffix())
    }
}

/// A number with at most so many places, without noughts at its end.
pub fn short_decimal(value: f64, places: usize) -> String {
    let text = format!("{value:.places$}");
    let text = if text.contains('.') { text.trim_end_matches('0').trim_end_matches('.') } else { &text };
    if text == "-0" { "0".to_owned() } else { text.replace('-', "\u{2212}") }
}

/// The finest fraction of an inch that a tape has: thirty-seconds.
const FINEST_FRACTION: u32 = 32;
/// Two lengths nearer than this are the same, in millimetres: stored figures keep a millionth.
const SAME: f64 = 1e-5;

fn write_fraction(inches: f64, denominator: u32) -> String {
    let parts = (inches * f64::from(denominator)).round() as u64;
    let (whole, rest) = (parts / u64::from(denominator), parts % u64::from(denominator));
    if rest == 0 {
        return whole.to_string();
    }
    let shared = greatest_common_divisor(rest, u64::from(denominator));
    let fraction = format!("{}/{}", rest / shared, u64::from(denominator) / shared);
    if whole == 0 { fraction } else { format!("{whole} {fraction}") }
}

fn greatest_common_divisor(a: u64, b: u64) -> u64 {
    if b == 0 { a } else { greatest_common_divisor(b, a % b) }
}

/// A length for a reader: exact, and rounded in the house's style.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Shown {
    /// Exact, in millimetres.
    pub mm: f64,
    /// Rounded, in the house's unit, without the unit.
    pub text: String,
    /// To a thousandth of the house's unit, without the unit: one hover away.
    pub exact: String,
}

/// An increase as the tape shows it, all round the body.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct OnBody(pub Length);

/// The same increase as one half pattern carries it.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct PerHalf(pub Length);

/// The same increase as one seam edge carries it: two side seams have four edges.
#[derive(Clone, Copy, Debug, PartialEq, PartialOrd)]
pub struct PerEdge(pub Length);

impl OnBody {
    /// What each half pattern must gain. There is no `From`: the step is always written out.
    ///
    /// ```
    /// use yardwand_core::{Length, OnBody};
    ///
    /// let bust = OnBody(Length::from_inches(3.0));
    /// assert_eq!(bust.per_half().0, Length::from_inches(1.5));
    /// ```
    pub fn per_half(self) -> PerHalf {
        PerHalf(Length(self.0.0 / 2.0))
    }
}

impl PerHalf {
    /// What the body gains all round.
    pub fn on_body(self) -> OnBody {
        OnBody(Length(self.0.0 * 2.0))
    }

    /// What the front and the back edge of one seam gain each.
    pub fn per_edge(self) -> PerEdge {
        PerEdge(Length(self.0.0 / 2.0))
    }
}

impl PerEdge {
    /// What the body gains all round.
    pub fn on_body(self) -> OnBody {
        OnBody(Length(self.0.0 * 4.0))
    }
}

/// Walks over the characters of one typed length.
struct Reader<'a> {
    text: &'a str,
    chars: Vec<char>,
    at: usize,
}

impl<'a> Reader<'a> {
    fn new(text: &'a str) -> Self {
        Self { text, chars: text.chars().collect(), at: 0 }
    }

    fn read(mut self, default: Unit) -> Result<Entered, LengthError> {
        self.skip_spaces();
        let value = self.number()?;
        let mut thread = self.thread();
        let unit = self.unit().unwrap_or(default);
        if thread == 0.0 {
            thread = self.thread();
        }
        self.expect_end()?;
        let mm = value * unit.in_mm() + thread;
        if mm > LONGEST {
            return Err(self.fault_at(0, LengthFault::TooLong));
        }
        if mm < 0.0 {
            return Err(self.fault_at(0, LengthFault::Negative));
        }
        Ok(Entered { length: Length(mm), typed: self.text.trim().to_owned(), unit })
    }

    fn number(&mut self) -> Result<f64, LengthError> {
        match self.peek() {
            None => return Err(self.fault(LengthFault::Empty)),
            Some('-' | '\u{2212}') => return Err(self.fault(LengthFault::Negative)),
            Some(_) => {}
        }
        if let Some(fraction) = self.sign_fraction() {
            return Ok(fraction);
        }
        let begun = self.at;
        let whole = self.digits()?;
        if self.peek() == Some('/') {
            return self.fraction_under(begun, whole, false);
        }
        if let Some('.' | ',') = self.peek() {
            return self.decimals(whole);
        }
        self.fraction_behind(whole)
    }

    fn decimals(&mut self, whole: u32) -> Result<f64, LengthError> {
        self.at += 1;
        let begun = self.at;
        while self.peek().is_some_and(|c| c.is_ascii_digit()) {
            self.at += 1;
        }
        if begun == self.at {
            return Err(self.unexpected());
        }
        let decimals: String = self.chars[begun..self.at].iter().collect();
        // Read whole: adding a parsed tail would cost the last digit.
        Ok(format!("{whole}.{decimals}").parse().unwrap_or(f64::INFINITY))
    }

    /// `37 3/8`, `37-3/8`, `37½`; a bare `37` too.
    fn fraction_behind(&mut self, whole: u32) -> Result<f64, LengthError> {
        let back = self.at;
        self.skip_spaces();
        if let Some(fraction) = self.sign_fraction() {
            return Ok(f64::from(whole) + fraction);
        }
        if self.peek() == Some('-') && self.chars.get(self.at + 1).is_some_and(char::is_ascii_digit) {
            self.at += 1;
        }
        if !self.peek().is_some_and(|c| c.is_ascii_digit()) {
            self.at = back;
            return Ok(f64::from(whole));
        }
        let begun = self.at;
        let top = self.digits()?;
        if self.peek() != Some('/') {
            return Err(self.fault_at(begun, LengthFault::TwoNumbers));
        }
        Ok(f64::from(whole) + self.fraction_under(begun, top, true)?)
    }

    fn fraction_under(&mut self, begun: usize, top: u32, behind_whole: bool) -> Result<f64, LengthError> {
        self.at += 1;
        let under = self.at;
        let bottom = self.digits()?;
        if ![2, 4, 8, 16, 32].contains(&bottom) {
            return Err(self.fault_at(under, LengthFault::Denominator(bottom)));
        }
        if behind_whole && top >= bottom {
            return Err(self.fault_at(begun, LengthFault::TopHeavy(top, bottom)));
        }
        Ok(f64::from(top) / f64::from(bottom))
    }

    fn sign_fraction(&mut self) -> Option<f64> {
        let value = match self.peek()? {
            '\u{bd}' => 0.5,
            '\u{bc}' => 0.25,
            '\u{be}' => 0.75,
            '\u{215b}' => 0.125,
            '\u{215c}' => 0.375,
            '\u{215d}' => 0.625,
            '\u{215e}' => 0.875,
            _ => return None,
        };
        self.at += 1;
        Some(value)
    }

    fn thread(&mut self) -> f64 {
        let back = self.at;
        self.skip_spaces();
        let thread = match self.peek() {
            Some('+') => THREAD,
            Some('-' | '\u{2212}') => -THREAD,
            _ => {
                self.at = back;
                return 0.0;
            }
        };
        self.at += 1;
        thread
    }

    fn unit(&mut self) -> Option<Unit> {
        let back = self.at;
        self.skip_spaces();
        let rest: String = self.chars[self.at..].iter().collect::<String>().to_lowercase();
        const NAMES: [(&str, Unit); 8] = [
            ("inches", Unit::Inch),
            ("inch", Unit::Inch),
            ("in", Unit::Inch),
            ("\"", Unit::Inch),
            ("\u{2033}", Unit::Inch),
            ("\u{201d}", Unit::Inch),
            ("cm", Unit::Cm),
            ("mm", Unit::Mm),
        ];
        let found = NAMES.iter().find(|(name, _)| rest.starts_with(name));
        match found {
            Some((name, unit)) => {
                self.at += name.chars().count();
                Some(*unit)
            }
            None => {
                self.at = back;
                None
            }
        }
    }

    fn digits(&mut self) -> Result<u32, LengthError> {
        let begun = self.at;
        let mut value: u32 = 0;
        while let Some(digit) = self.peek().and_then(|c| c.to_digit(10)) {
            value = value
                .checked_mul(10)
                .and_then(|v| v.checked_add(digit))
                .ok_or_else(|| self.fault_at(begun, LengthFault::TooLong))?;
            self.at += 1;
        }
        if begun == self.at { Err(self.unexpected()) } else { Ok(value) }
    }

    fn expect_end(&mut self) -> Result<(), LengthError> {
        self.skip_spaces();
        match self.peek() {
            None => Ok(()),
            Some(c) if c.is_ascii_digit() => Err(self.fault(LengthFault::TwoNumbers)),
            Some(_) => Err(self.unexpected()),
        }
    }

    fn unexpected(&self) -> LengthError {
        match self.peek() {
            Some(c) => self.fault(LengthFault::NotANumber(c)),
            None => match self.chars.last() {
                Some(&last) => self.fault_at(self.at.saturating_sub(1), LengthFault::NotANumber(last)),
                None => self.fault(LengthFault::Empty),
            },
        }
    }

    fn fault(&self, fault: LengthFault) -> LengthError {
        self.fault_at(self.at, fault)
    }

    fn fault_at(&self, at: usize, fault: LengthFault) -> LengthError {
        LengthError { at, fault }
    }

    fn peek(&self) -> Option<char> {
        self.chars.get(self.at).copied()
    }

    fn skip_spaces(&mut self) {
        while self.peek().is_some_and(char::is_whitespace) {
            self.at += 1;
        }
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    fn mm(text: &str, unit: Unit) -> f64 {
        Length::read(text, unit).unwrap_or_else(|e| panic!("{text:?}: {e}")).length.mm()
    }

    #[test]
    fn an_amount_has_a_sign_and_its_fault_keeps_its_place() {
        let read = |text| Length::read_signed(text, Unit::Inch);
        assert_eq!(read("-1/2"), Ok(-12.7));
        assert_eq!(read(" \u{2212} 1"), Ok(-25.4));
        assert_eq!(read("+2"), Ok(50.8));
        assert_eq!(read("0"), Ok(0.0));
        assert_eq!(read("3x").unwrap_err().at, 1);
        assert_eq!(read("-3x").unwrap_err().at, 2);
        assert!(read("--3").is_err());
        assert!(read("-").is_err());
    }

    #[test]
    fn every_form_of_the_handbook_is_read() {
        for (text, expected) in [
            ("37 3/8", 949.325),
            ("37-3/8", 949.325),
            ("37.375", 949.325),
            ("37 3/8\"", 949.325),
            ("37in", 939.8),
            (" 37 in ", 939.8),
            ("37\u{bd}", 952.5),
            ("3/8", 9.525),
            ("37+", 941.3875),
            ("37 3/8-", 947.7375),
            ("37 3/8 in +", 950.9125),
            ("94,9 cm", 949.0),
            ("94.9cm", 949.0),
            ("949 mm", 949.0),
            ("0", 0.0),
        ] {
            assert!(
                (mm(text, Unit::Inch) - expected).abs() < 1e-9,
                "{text:?} read as {}",
                mm(text, Unit::Inch)
            );
        }
        assert!((mm("94,9", Unit::Cm) - 949.0).abs() < 1e-9);
    }

    #[test]
    fn what_is_no_length_is_refused_with_its_place() {
        use LengthFault as F;
        for (text, at, fault) in [
            ("", 0, F::Empty),
            ("   ", 3, F::Empty),
            ("x", 0, F::NotANumber('x')),
            ("3o", 1, F::NotANumber('o')),
            ("-3", 0, F::Negative),
            ("37 3/7", 5, F::Denominator(7)),
            ("1/0", 2, F::Denominator(0)),
            ("37 9/8", 3, F::TopHeavy(9, 8)),
            ("37 38", 3, F::TwoNumbers),
            ("37 3/8 2", 7, F::TwoNumbers),
            ("120 in 3", 7, F::TwoNumbers),
            ("304.9 cm", 0, F::TooLong),
            ("99999999999", 0, F::TooLong),
            ("37.", 2, F::NotANumber('.')),
        ] {
            let error = Length::read(text, Unit::Inch).expect_err(text);
            assert_eq!((error.at, error.fault), (at, fault), "{text:?}");
        }
    }

    #[test]
    fn written_to_the_nearest_eighth_and_reduced() {
        assert_eq!(Style::EIGHTHS.write(Length::from_inches(37.375)), "37 3/8");
        assert_eq!(Style::EIGHTHS.write(Length::from_inches(37.75)), "37 3/4");
        assert_eq!(Style::EIGHTHS.write(Length::from_inches(0.01)), "0");
        assert_eq!(Style::EIGHTHS.write(Length::from_inches(-0.5)), "\u{2212}1/2");
        assert_eq!(Style::EIGHTHS.write(Length::from_mm(949.0)), "37 3/8");
        assert_eq!(Style::TENTHS.write(Length::from_mm(949.0)), "94.9");
        assert_eq!(Style::Cm { steps: 2 }.write(Length::from_mm(947.4)), "94.5");
    }

    #[test]
    fn every_thirty_second_to_118_in_and_every_mm_to_3_m_comes_back() {
        let fine = Style::Inch { denominator: 32 };
        for parts in 0..=(118 * 32) {
            let length = Length::from_inches(f64::from(parts) / 32.0);
            assert_eq!(Length::read(&fine.write(length), Unit::Inch).unwrap().length, length, "{parts}/32");
        }
        for mm in 0..=3000 {
            let length = Length::from_mm(f64::from(mm));
            let back = Length::read(&Style::TENTHS.write(length), Unit::Cm).unwrap().length;
            assert!((back.mm() - length.mm()).abs() < 1e-9, "{mm} mm came back as {}", back.mm());
        }
    }

    proptest! {
        #[test]
        fn no_text_panics(text in "\\PC{0,24}") {
            let _ = Length::read(&text, Unit::Inch);
        }

        #[test]
        fn nothing_near_a_length_panics_or_goes_wild(text in "[-+0-9 ./,incmx\"]{0,14}") {
            if let Ok(entered) = Length::read(&text, Unit::Cm) {
                prop_assert!((0.0..=LONGEST).contains(&entered.length.mm()));
            }
        }
    }
}
