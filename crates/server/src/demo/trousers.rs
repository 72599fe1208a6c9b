//! The demo's trousers: a bought pattern as a card of three sizes, and a harpist who is measured for them.

use yardwand_core::INCH;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::pattern::{Garment, PatternMeasure};
use yardwand_store::{How, NewBlock};

use super::{Seeded, Seeder};
use crate::figures::profile_of_client;

impl Seeder<'_> {
    /// A bought pattern of straight trousers, measured in three sizes.
    pub(super) async fn card_of_trousers(&self) -> Seeded {
        let size = |label: &str, hip: f64| {
            let more = hip - 36.0;
            let figures = [
                (PatternMeasure::Waist, hip - 9.5),
                (PatternMeasure::Hip, hip + 2.0),
                (PatternMeasure::WaistToHip, 8.0),
                (PatternMeasure::CrotchDepth, 11.375 + more / 8.0),
                (PatternMeasure::CrotchLength, 29.0 + more * 0.5),
                (PatternMeasure::InsideLeg, 30.0),
                (PatternMeasure::LegAtCrotch, 25.5 + more * 0.625),
                (PatternMeasure::LegAtKnee, 19.0 + more * 0.25),
                (PatternMeasure::LegHem, 17.5 + more * 0.25),
            ];
            let figures = figures.into_iter().map(|(figure, inches)| (figure, inches * INCH)).collect();
            BlockSize::card(label, Body::default().with("hip_girth", hip * INCH), figures)
        };
        let block = NewBlock {
            name: "Straight trousers, bought".into(),
            client_id: None,
            how: How::Card,
            told: String::new(),
            parent_id: None,
            method: None,
            ease_set: Garment::Trousers.usual_ease().unwrap_or("standard").into(),
            why: "For players who sit astride a cello or a harp; measured in the three sizes that are used."
                .into(),
            sizes: vec![size("10", 36.0), size("12", 38.0), size("14", 40.0)],
        };
        self.store.add_block(&block, self.once).await?;
        Ok(())
    }

    /// She sits with the harp between her knees and wishes them wide there.
    pub(super) async fn concert_trousers(&self, client: u64) -> Seeded {
        let taken = self.order_of(client, "Concert trousers", "trousers", 40, 12).await?;
        let profile =
            profile_of_client(self.store, client).await.map_err(|_| "her figures cannot be read")?;
        let waist = profile.body().get("waist_girth").ok_or("her waist is not measured")?;
        let hip = waist + 10.5 * INCH;
        let her_own = [
            ("waist_girth", waist),
            ("top_hip_girth", waist + 6.5 * INCH),
            ("hip_girth", hip),
            ("waist_to_hip", 8.25 * INCH),
            ("waist_to_knee", 23.25 * INCH),
            ("waist_to_ankle", 37.5 * INCH),
            ("waist_to_floor", 41.25 * INCH),
            ("thigh_girth", hip * 0.6),
            ("thigh_slant_girth", hip * 0.6 + 2.125 * INCH),
            ("knee_girth", hip * 0.37),
            ("calf_girth", hip * 0.365),
            ("ankle_girth", hip * 0.24),
            ("inside_leg", 29.75 * INCH),
            ("crotch_depth", 11.5 * INCH),
            ("crotch_length", 30.25 * INCH),
            ("trouser_knee_girth", 21.0 * INCH),
            ("trouser_hem_girth", 18.0 * INCH),
        ];
        self.measure(taken, &her_own.into_iter().collect(), usize::MAX, 11).await?;
        Ok(())
    }
}
