//! Relations that plausible readings keep: one table, read here.

use super::{Finding, FindingKind};
use crate::body::Body;
use crate::body::catalogue::{Relation, relations};
use crate::{Style, short_decimal};

pub(super) fn broken(body: &Body, about: Option<&str>, style: Style) -> Vec<Finding> {
    let concerns = |relation: &&Relation| {
        about.is_none_or(|code| relation.terms.contains_key(code) || relation.over.as_deref() == Some(code))
    };
    relations()
        .iter()
        .filter(concerns)
        .filter_map(|relation| {
            let value = value_of(relation, body)?;
            let kept =
                relation.low.is_none_or(|low| value >= low) && relation.high.is_none_or(|high| value <= high);
            (!kept).then(|| finding(relation, value, about, style))
        })
        .collect()
}

fn value_of(relation: &Relation, body: &Body) -> Option<f64> {
    let mut sum = 0.0;
    for (code, multiple) in &relation.terms {
        sum += multiple * body.get(code)?;
    }
    match &relation.over {
        Some(code) => Some(sum / body.get(code)?),
        None => Some(sum),
    }
}

fn finding(relation: &Relation, value: f64, about: Option<&str>, style: Style) -> Finding {
    let figure = if relation.over.is_some() {
        format!("here {} hundredths", short_decimal(value * 100.0, 1))
    } else if relation.terms.len() == 1 {
        format!("here {}", style.with_unit(value))
    } else {
        format!("here the difference is {}", style.with_unit(value))
    };
    let first = relation.terms.iter().max_by(|a, b| a.1.total_cmp(b.1)).map_or("", |(code, _)| code);
    let mut says = style.say(&relation.says);
    if let Some(initial) = says.get(..1) {
        says = format!("{}{}", initial.to_uppercase(), &says[1..]);
    }
    Finding {
        measurement: about.unwrap_or(first).to_owned(),
        kind: FindingKind::Relation,
        grade: relation.grade,
        says: format!("{says}; {figure}."),
        remedy: style.say(&relation.remedy),
        repair: None,
    }
}
