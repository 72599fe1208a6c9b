//! What a person may change. Every write names its matter in its extractor, [`crate::extract::Writer`]; which role may what
//! stands in [`yardwand_store::Role::may`], and `docs/rights.md` is the table of both.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use yardwand_store::{Right, Role};

use crate::error::ApiError;

/// A matter that is written in, as a type: `Writer<Cutting>` lets in who may cut.
pub(crate) trait Matter: Send + Sync + 'static {
    /// The right it takes.
    const RIGHT: Right;
}

/// What is said to somebody who lacks the right of a matter.
pub(crate) fn refused<M: Matter>(role: Role) -> ApiError {
    ApiError::Forbidden(match role {
        Role::Reader => "your sign-in may look but not change anything: ask the owner".to_owned(),
        _ => format!("your sign-in may not change {}: ask the owner", words(M::RIGHT)),
    })
}

macro_rules! matters {
    ($($(#[$doc:meta])* $matter:ident: $words:literal;)+) => {
        $(
            $(#[$doc])*
            pub(crate) struct $matter;

            impl Matter for $matter {
                const RIGHT: Right = Right::$matter;
            }
        )+

        /// What a right is over, in the house's words.
        fn words(right: Right) -> &'static str {
            match right {
                $(Right::$matter => $words,)+
            }
        }
    };
}

matters! {
    /// Clients, consents, sessions and readings.
    Readings: "clients and readings";
    /// Rounds, what is seen and decided in them, photographs.
    Fitting: "fittings";
    /// Garments ordered and handed over, appointments, letters.
    Dates: "garments and dates";
    /// Blocks, forms, plans, patterns, what clients are sent of them, and the house's ways of drafting.
    Cutting: "blocks and patterns";
    /// The house itself, its people, and erasing a client.
    Housekeeping: "the house and its people";
}

/// A role with its name and what it may change, for whoever gives it to somebody.
#[derive(Serialize, ToSchema)]
pub(crate) struct RoleView {
    role: RoleName,
    name: &'static str,
    /// What it may change, in words.
    may: String,
}

/// Every role, from all rights to none.
pub(crate) fn roles() -> Vec<RoleView> {
    let view = |role: Role| {
        let over: Vec<&str> = Right::ALL.into_iter().filter(|right| role.may(*right)).map(words).collect();
        let name = match role {
            Role::Owner => "Owner",
            Role::Cutter => "Cutter",
            Role::Fitter => "Fitter",
            Role::Assistant => "Assistant",
            Role::Reader => "Reader",
        };
        let may = if over.is_empty() { "nothing, and looks at all".to_owned() } else { over.join(", ") };
        RoleView { role: role.into(), name, may }
    };
    Role::ALL.into_iter().map(view).collect()
}

/// A role, as documents name it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum RoleName {
    Owner,
    Cutter,
    Fitter,
    Assistant,
    Reader,
}

impl From<Role> for RoleName {
    fn from(role: Role) -> Self {
        match role {
            Role::Owner => Self::Owner,
            Role::Cutter => Self::Cutter,
            Role::Fitter => Self::Fitter,
            Role::Assistant => Self::Assistant,
            Role::Reader => Self::Reader,
        }
    }
}

impl From<RoleName> for Role {
    fn from(name: RoleName) -> Self {
        match name {
            RoleName::Owner => Self::Owner,
            RoleName::Cutter => Self::Cutter,
            RoleName::Fitter => Self::Fitter,
            RoleName::Assistant => Self::Assistant,
            RoleName::Reader => Self::Reader,
        }
    }
}

/// A right, as documents name it.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum RightName {
    Readings,
    Fitting,
    Dates,
    Cutting,
    Housekeeping,
}

impl From<Right> for RightName {
    fn from(right: Right) -> Self {
        match right {
            Right::Readings => Self::Readings,
            Right::Fitting => Self::Fitting,
            Right::Dates => Self::Dates,
            Right::Cutting => Self::Cutting,
            Right::Housekeeping => Self::Housekeeping,
        }
    }
}
