//! The demo's photograph: a toile on a stand, painted here, so that nobody real is in it.

use image::codecs::jpeg::JpegEncoder;
use image::{Rgb, RgbImage};

const WIDTH: u32 = 480;
const HEIGHT: u32 = 640;

/// Half the width of the figure at a height, both as shares of the picture.
fn half_width(y: f64) -> f64 {
    // Neck, shoulder, bust, waist, hip, hem of the toile.
    const OUTLINE: [(f64, f64); 9] = [
        (0.06, 0.055),
        (0.12, 0.060),
        (0.17, 0.205),
        (0.26, 0.175),
        (0.36, 0.205),
        (0.56, 0.145),
        (0.70, 0.200),
        (0.80, 0.215),
        (0.82, 0.0),
    ];
    let after = OUTLINE.iter().position(|(at, _)| *at > y);
    match after {
        Some(0) | None => 0.0,
        Some(index) => {
            let ((y0, w0), (y1, w1)) = (OUTLINE[index - 1], OUTLINE[index]);
            let share = (y - y0) / (y1 - y0);
            w0 + (w1 - w0) * share * share * (3.0 - 2.0 * share)
        }
    }
}

/// How dark a drag is at a point: lines that climb from the side to the bust.
fn drag(x: f64, y: f64) -> f64 {
    let across = (x.abs() - 0.13) / 0.07;
    if !(0.0..1.0).contains(&across) {
        return 0.0;
    }
    let fold = ((y - 0.37 - across * 0.035) * 190.0).sin();
    let near = (-((y - 0.385) / 0.035).powi(2)).exp();
    0.16 * near * fold.max(0.0) * across.sqrt()
}

/// A JPEG of a muslin toile on a stand before a grey wall, with drags from the side seam to the bust.
pub(super) fn toile_on_a_stand() -> Result<Vec<u8>, image::ImageError> {
    let picture = RgbImage::from_fn(WIDTH, HEIGHT, |px, py| {
        let (x, y) = (f64::from(px) / f64::from(WIDTH) - 0.5, f64::from(py) / f64::from(HEIGHT));
        let half = half_width(y);
        let wall = 0.62 + 0.16 * (0.5 - x) - 0.12 * y;
        let (shade, tint) = if x.abs() < half {
            // Lit from the left: a body of revolution is darker where it turns away.
            let turn = x / half;
            let lit = (1.0 - (turn + 0.25).powi(2) * 0.42).max(0.3);
            let weave = 0.012 * f64::from((px + py) % 3);
            let seam = if x.abs() < 0.0022 || (y - 0.56).abs() < 0.0016 { 0.18 } else { 0.0 };
            (lit - weave - drag(x, y) - seam, [0.95, 0.90, 0.78])
        } else if x.abs() < 0.012 && y > 0.8 {
            (0.35, [0.6, 0.45, 0.32])
        } else {
            (wall, [0.84, 0.86, 0.88])
        };
        let channel = |tint: f64| (255.0 * (shade * tint).clamp(0.0, 1.0)) as u8;
        Rgb(tint.map(channel))
    });
    let mut bytes = Vec::new();
    JpegEncoder::new_with_quality(&mut bytes, 84).encode_image(&picture)?;
    Ok(bytes)
}
