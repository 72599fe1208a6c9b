//! What the demo house keeps beside its master: a card, a nest to trace, a method, an ease set. All invented.

use yardwand_core::INCH;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{Method, MethodKind, draft, size_table};
use yardwand_core::ease::{DesignEase, EaseSet, ease_set};
use yardwand_core::pattern::PatternMeasure;
use yardwand_store::{How, NewBlock, Shelf};

use super::{STYLE, Seeded, Seeder};

impl Seeder<'_> {
    pub(super) async fn library(&self) -> Seeded {
        let player = EaseSet {
            code: String::new(),
            name: "Concert dress, bowing arm".into(),
            note: "Room to bow: more across the back and at the elbow, close at the wrist, and what the arms forward ask for."
                .into(),
            across_back: 1.0 * INCH,
            elbow: Some(2.5 * INCH),
            wrist: Some(1.25 * INCH),
            reach: true,
            design: DesignEase { bust: 0.5 * INCH, ..DesignEase::default() },
            ..ease_set("standard", STYLE.unit()).ok_or("no standard ease")?.clone()
        };
        self.store.put_on_shelf(Shelf::Ease, &player.name, &player, self.once).await?;
        let method = Method { kind: MethodKind::Direct, with_sleeve: true, ..Method::usual(STYLE.unit()) };
        let method = method.with("waist_dart_keeps", 1.25 * INCH)?.with("below_armpit", 0.875 * INCH)?;
        self.store.put_on_shelf(Shelf::Methods, "High armhole, narrow dart", &method, self.once).await?;
        let why = "For the string section: no waist seam, sleeve in the armhole.";
        self.master("Concert dress to the hip", MethodKind::Dress, true, why).await?;
        let why = "For summer concerts: the same without a sleeve.";
        self.master("Sleeveless dress to the hip", MethodKind::Dress, false, why).await?;
        let why = "For blouses and bodices that want a sleeve.";
        self.master("Bodice with sleeve", MethodKind::Direct, true, why).await?;
        self.card().await?;
        self.card_of_trousers().await
    }

    /// A master of every size of a built-in table.
    async fn master(&self, name: &str, kind: MethodKind, with_sleeve: bool, why: &str) -> Seeded {
        let table = size_table("medium").ok_or("no built-in table")?;
        let mut method = Method { kind, with_sleeve, ..Method::usual(STYLE.unit()) };
        let ease = ease_set("standard", STYLE.unit()).ok_or("no standard ease")?;
        let mut sizes = Vec::new();
        for size in &table.sizes {
            let figure = table.figure(&size.label).ok_or("no such size")?;
            method = method.with_ease(ease, &figure);
            let pattern = draft(&figure, &method, STYLE)?.pattern;
            sizes.push(BlockSize::drawn(&size.label, figure, pattern));
        }
        let block = NewBlock {
            name: name.into(),
            client_id: None,
            how: How::Drafted,
            told: format!("Sizes of {}.", table.name),
            parent_id: None,
            method: Some(method),
            ease_set: "standard".into(),
            why: why.into(),
            sizes,
        };
        self.store.add_block(&block, self.once).await?;
        Ok(())
    }

    async fn card(&self) -> Seeded {
        let figures = [
            (PatternMeasure::Bust, 37.5),
            (PatternMeasure::Waist, 28.5),
            (PatternMeasure::AcrossFront, 13.0),
            (PatternMeasure::AcrossBack, 14.0),
            (PatternMeasure::ShoulderFront, 4.75),
            (PatternMeasure::ShoulderDrop, 1.625),
            (PatternMeasure::CentreBack, 16.0),
            (PatternMeasure::FrontLength, 16.75),
            (PatternMeasure::BustPointDepth, 10.25),
            (PatternMeasure::BustSpan, 7.25),
            (PatternMeasure::ArmholeDepth, 8.5),
            (PatternMeasure::SideBack, 7.5),
        ];
        let figures =
            figures.into_iter().map(|(figure, inches)| (figure, inches * yardwand_core::INCH)).collect();
        let block = NewBlock {
            name: "Paper pattern from the drawer".into(),
            client_id: None,
            how: How::Card,
            told: String::new(),
            parent_id: None,
            method: None,
            ease_set: "standard".into(),
            why: "An old bodice the house likes; measured by hand, darts closed.".into(),
            sizes: vec![BlockSize::card("12", Body::default().with("bust_girth", 34.0 * INCH), figures)],
        };
        self.store.add_block(&block, self.once).await?;
        Ok(())
    }
}
