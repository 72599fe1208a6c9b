//! The demo's toile: draped on the house's form, photographed between two sheets of paper, and marked whole. The photographs are invented,
//! their marks lie where they were drawn.

use serde::Deserialize;
use yardwand_core::drape::{
    DartsDecided, DrapeFacts, DrapeInHand, Draped, Given, MarkedBy, Marks, Material, PieceInHand, SheetInHand,
};
use yardwand_core::pattern::DartPlace;
use yardwand_store::NewDrape;

use super::{Seeded, Seeder};

/// What is known of a photograph.
#[derive(Deserialize)]
struct Known {
    size_px: [u32; 2],
    sheets: Vec<SheetInHand>,
    marks_px: Marks,
}

const PIECES: [(Draped, &[u8], &str); 2] = [
    (Draped::Front, include_bytes!("toile-front.jpg"), include_str!("toile-front.json")),
    (Draped::Back, include_bytes!("toile-back.jpg"), include_str!("toile-back.json")),
];

impl Seeder<'_> {
    pub(super) async fn draped_bodice(&self) -> Seeded {
        let form = self.store.forms().await?.into_iter().next().ok_or("the demo has no form")?;
        let darts = vec![DartPlace::Waist, DartPlace::Shoulder];
        let facts = DrapeFacts {
            given: Given { material: Some(Material::Toile), skin_tight: true, ..Given::default() },
            darts: DartsDecided { front: darts.clone(), back: darts },
            ..DrapeFacts::default()
        };
        let new = NewDrape {
            name: "Bodice on the house form".into(),
            client_id: None,
            form_id: Some(form.id),
            in_hand: DrapeInHand { facts, ..DrapeInHand::default() },
            pictures_of: None,
        };
        let id = self.store.begin_drape(&new, self.once).await?;
        for (piece, image, known) in PIECES {
            let Known { size_px, sheets, marks_px } = serde_json::from_str(known)?;
            let revision = self.store.photograph_drape((id, piece), (image, size_px), self.once).await?;
            let marked =
                PieceInHand { by: MarkedBy::Photograph, sheets, marks: marks_px, ..PieceInHand::default() };
            self.store.mark_drape((id, piece), revision, &marked, self.once).await?;
        }
        Ok(())
    }
}
