//! What a house drafts and compares with: its methods, ease sets and size tables beside the built-in ones.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use yardwand_core::draft::{
    Method, MethodKind, Parameter, ParameterUnit, SizeTable, parameter, parameters, size_table, size_tables,
};
use yardwand_core::ease::{EaseSet, ease_set, ease_sets};
use yardwand_core::pattern::Garment;
use yardwand_core::{Length, Style, Unit, short_decimal};
use yardwand_store::{Kept, Shelf, Store};

use crate::error::ApiError;

/// Ease sets: the built-in ones, then the house's own, coded `house-<number>`.
pub(crate) async fn all_ease_sets(store: &Store) -> Result<Vec<EaseSet>, ApiError> {
    let own = store.shelf::<EaseSet>(Shelf::Ease).await?;
    let unit = store.house().await?.style.unit();
    Ok(ease_sets(unit).iter().cloned().chain(own.into_iter().map(house_ease)).collect())
}

pub(crate) fn house_ease(kept: Kept<EaseSet>) -> EaseSet {
    EaseSet { code: format!("house-{}", kept.id), name: kept.name, ..kept.document }
}

/// The ease set of a code; the house's usual one without.
pub(crate) async fn ease_named(store: &Store, code: Option<&str>) -> Result<EaseSet, ApiError> {
    let house = store.house().await?;
    let code = code.unwrap_or(&house.ease_set);
    if let Some(set) = ease_set(code, house.style.unit()) {
        return Ok(set.clone());
    }
    let own = all_ease_sets(store).await?.into_iter().find(|set| set.code == code);
    own.ok_or_else(|| ApiError::field("/ease_set", format!("no ease set is called “{code}”")))
}

/// Size tables: the built-in ones, then the house's own, coded `house-<number>`.
pub(crate) async fn all_size_tables(store: &Store) -> Result<Vec<SizeTable>, ApiError> {
    let own = store.shelf::<SizeTable>(Shelf::SizeTables).await?;
    let own = own.into_iter().map(|kept| SizeTable {
        code: format!("house-{}", kept.id),
        name: kept.name,
        ..kept.document
    });
    Ok(size_tables().iter().cloned().chain(own).collect())
}

/// The ease a draft is made with: the set that is named, or else the usual one of what is drafted, or the house's.
pub(crate) async fn ease_of_draft(
    store: &Store,
    named: Option<&str>,
    of: Garment,
) -> Result<EaseSet, ApiError> {
    ease_named(store, named.or(of.usual_ease())).await
}

/// What is done about trousers.
pub(crate) const ONLY_COMPARED: &str = "Trousers are neither drafted nor altered here: a card of them is compared with her \
     readings, and the plan's worksheet says what to do on the paper.";

/// What a client's own block is called unless it is told otherwise.
pub(crate) fn own_name(client: &str, garment: Garment) -> String {
    match garment {
        Garment::Bodice => format!("{client}, own block"),
        Garment::Skirt => format!("{client}, own skirt"),
        Garment::Trousers => format!("{client}, own trousers"),
    }
}

/// The ease a garment is made with: what its plan was kept with, or else the usual one of what it is, or the house's.
pub(crate) async fn ease_of_order(store: &Store, order: u64, garment: Garment) -> Result<EaseSet, ApiError> {
    let plan = store.order_plan(order).await?;
    ease_of_draft(store, plan.as_ref().map(|plan| plan.ease_set.as_str()), garment).await
}

pub(crate) async fn table_named(store: &Store, code: &str) -> Result<SizeTable, ApiError> {
    if let Some(table) = size_table(code) {
        return Ok(table.clone());
    }
    let own = all_size_tables(store).await?.into_iter().find(|table| table.code == code);
    own.ok_or_else(|| ApiError::field("/table", format!("no size table is called “{code}”")))
}

/// A method as it is asked for: a construction or a house method, with constants changed.
#[derive(Clone, Debug, Default, Deserialize, Serialize, ToSchema)]
#[serde(default, deny_unknown_fields)]
pub(crate) struct MethodAsk {
    /// The construction; a house method's own where one is named.
    pub(crate) kind: Option<MethodKind>,
    /// The house method to start from, by number.
    pub(crate) house_method: Option<u64>,
    /// Whether a sleeve is drafted too.
    pub(crate) with_sleeve: Option<bool>,
    /// Constants that were changed, as typed: a length in the house's unit, degrees, a number, or 0 and 1.
    pub(crate) constants: BTreeMap<String, String>,
}

impl MethodAsk {
    /// The method with the constants as they are typed. Its ease is a set's, by [`ease_of_draft`].
    pub(crate) async fn resolved(&self, store: &Store, style: Style) -> Result<Method, ApiError> {
        let mut method = match self.house_method {
            Some(id) => {
                let own = store.shelf::<Method>(Shelf::Methods).await?;
                let kept = own.into_iter().find(|kept| kept.id == id);
                kept.ok_or_else(|| {
                    ApiError::field(
                        "/method/house_method",
                        "the house has no such method any more: choose another",
                    )
                })?
                .document
            }
            None => Method::usual(style.unit()),
        };
        method.kind = self.kind.unwrap_or(method.kind);
        method.with_sleeve = self.with_sleeve.unwrap_or(method.with_sleeve);
        for (code, text) in &self.constants {
            let pointer = format!("/method/constants/{code}");
            let row = parameter(code).ok_or_else(|| {
                ApiError::field(&pointer, format!("no constant of a method is called “{code}”"))
            })?;
            let value = read_constant(text, row.unit, style.unit())
                .map_err(|says| ApiError::field(&pointer, format!("{}: {says}", row.name)))?;
            method = method.with(code, value).map_err(|_| {
                let [least, most] = limits(row, style);
                ApiError::field(&pointer, format!("{} must lie between {least} and {most}", row.name))
            })?;
        }
        Ok(method)
    }
}

fn read_constant(text: &str, unit: ParameterUnit, house: Unit) -> Result<f64, String> {
    if unit == ParameterUnit::Mm {
        return Length::read_signed(text, house).map_err(|error| error.to_string());
    }
    let plain = text.trim().trim_end_matches('\u{b0}').replace(',', ".").replace('\u{2212}', "-");
    let value = plain.parse().ok().filter(|value: &f64| value.is_finite());
    value.ok_or_else(|| format!("“{}” is no number", text.trim()))
}

/// A constant as it is shown: exactly, since rounding one to an eighth would change the method.
fn write_constant(value: f64, unit: ParameterUnit, style: Style) -> String {
    let number = || short_decimal(value, 3);
    match unit {
        ParameterUnit::Mm => {
            let text = style.typed_exactly(value);
            let has_unit = text.ends_with(|c: char| c.is_alphabetic());
            if has_unit { text } else { format!("{text} {}", style.unit().suffix()) }
        }
        ParameterUnit::Degrees => format!("{}\u{b0}", number()),
        ParameterUnit::Number | ParameterUnit::Switch => number(),
    }
}

/// The limits of a constant, taken inwards to the house's marks.
fn limits(row: &Parameter, style: Style) -> [String; 2] {
    if row.unit == ParameterUnit::Mm {
        [style.least_mark(row.least), style.greatest_mark(row.most)]
    } else {
        [row.least, row.most].map(|limit| write_constant(limit, row.unit, style))
    }
}

/// A constant of a method as it is shown.
#[derive(Clone, Debug, Serialize, ToSchema)]
pub(crate) struct ParameterView {
    code: String,
    name: String,
    unit: ParameterUnit,
    /// As it stands, written.
    value: String,
    /// As the trade has it, written.
    usual: String,
    least: String,
    most: String,
    reason: String,
    /// It stands otherwise than the trade has it.
    changed: bool,
}

/// The constants of a method that count for its construction.
pub(crate) fn parameter_views(method: &Method, style: Style) -> Vec<ParameterView> {
    let usual = Method::usual(style.unit());
    parameters(method.kind, method.with_sleeve)
        .map(|row| {
            let write = |value| write_constant(value, row.unit, style);
            let (now, default) = (row.of(method), row.of(&usual));
            let [least, most] = limits(row, style);
            ParameterView {
                code: row.code.to_owned(),
                name: row.name.to_owned(),
                unit: row.unit,
                value: write(now),
                usual: write(default),
                least,
                most,
                reason: style.say(row.reason),
                changed: (now - default).abs() > 1e-9,
            }
        })
        .collect()
}

impl ParameterView {
    /// Whether it stands otherwise than the trade has it.
    pub(crate) fn is_changed(&self) -> bool {
        self.changed
    }
}

/// The day it is in the workroom: the server's own zone, which `TZ` sets.
pub(crate) fn today() -> chrono::NaiveDate {
    chrono::Local::now().date_naive()
}
