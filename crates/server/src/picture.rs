//! Photographs: read whatever a camera makes, turned upright, made smaller, written anew. What is kept carries no
//! place, no camera and no name.

use std::io::Cursor;

use image::codecs::jpeg::JpegEncoder;
use image::metadata::Orientation;
use image::{DynamicImage, ImageDecoder, ImageReader, Limits};

/// Longest side of what is kept, in pixels.
const LONGEST: u32 = 1600;
/// Longest side of what is read, in pixels.
const MOST_PIXELS: u32 = 12_000;
/// How faithfully it is written.
const QUALITY: u8 = 82;

/// A photograph as it is kept.
pub(crate) struct Picture {
    /// JPEG without metadata.
    pub(crate) bytes: Vec<u8>,
    pub(crate) width: u32,
    pub(crate) height: u32,
}

/// Reads a photograph and writes it anew.
///
/// # Errors
///
/// A sentence: what it is not, or that it is too large.
pub(crate) fn taken_in(bytes: &[u8]) -> Result<Picture, String> {
    const UNREADABLE: &str = "this is no photograph that can be read: send a JPEG, PNG or WebP picture";
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| UNREADABLE)?;
    if reader.format().is_none() {
        return Err(UNREADABLE.to_owned());
    }
    let mut limits = Limits::default();
    limits.max_image_width = Some(MOST_PIXELS);
    limits.max_image_height = Some(MOST_PIXELS);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(|error| match error {
        image::ImageError::Limits(_) => {
            format!("this photograph has more than {MOST_PIXELS} pixels on a side: send a smaller copy")
        }
        _ => UNREADABLE.to_owned(),
    })?;
    let orientation = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let mut picture = DynamicImage::from_decoder(decoder)
        .map_err(|_| "this photograph breaks off in the middle: send it again")?;
    picture.apply_orientation(orientation);
    if picture.width().max(picture.height()) > LONGEST {
        picture = picture.resize(LONGEST, LONGEST, image::imageops::FilterType::Triangle);
    }
    let picture = picture.into_rgb8();
    let mut written = Vec::new();
    JpegEncoder::new_with_quality(&mut written, QUALITY)
        .encode_image(&picture)
        .map_err(|_| "this photograph cannot be written anew: send it as a JPEG")?;
    Ok(Picture { bytes: written, width: picture.width(), height: picture.height() })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn jpeg(width: u32, height: u32) -> Vec<u8> {
        let mut bytes = Vec::new();
        let picture = image::RgbImage::from_fn(width, height, |x, y| image::Rgb([x as u8, y as u8, 90]));
        JpegEncoder::new(&mut bytes).encode_image(&picture).unwrap();
        bytes
    }

    /// An EXIF segment (TIFF, big endian) that says the camera was turned, and where it was.
    fn with_exif(jpeg: &[u8]) -> Vec<u8> {
        let mut exif = b"Exif\0\0MM\0\x2a\0\0\0\x08\0\x01\x01\x12\0\x03\0\0\0\x01\0\x06\0\0\0\0\0\0".to_vec();
        exif.extend(b"GPS 52.5200 N, camera of somebody");
        let length = (exif.len() + 2) as u16;
        let mut bytes = jpeg[..2].to_vec();
        bytes.extend([0xff, 0xe1]);
        bytes.extend(length.to_be_bytes());
        bytes.extend(exif);
        bytes.extend(&jpeg[2..]);
        bytes
    }

    #[test]
    fn a_photograph_is_turned_upright_made_smaller_and_says_nothing_of_the_camera() {
        let taken = with_exif(&jpeg(2400, 1200));
        assert!(taken.windows(3).any(|part| part == b"GPS"));
        let kept = taken_in(&taken).unwrap();
        assert_eq!((kept.width, kept.height), (800, 1600), "orientation 6 is a quarter turn");
        assert!(!kept.bytes.windows(4).any(|part| part == b"Exif" || part == b"GPS "));
        assert_eq!(&kept.bytes[..2], [0xff, 0xd8]);
    }

    #[test]
    fn what_is_no_photograph_gets_its_sentence() {
        let says = |bytes: &[u8]| taken_in(bytes).err().unwrap();
        assert!(says(b"shopping list: pins, chalk, muslin").contains("no photograph"));
        assert!(says(b"").contains("no photograph"));
        let whole = jpeg(600, 600);
        assert!(says(&whole[..40]).contains("no photograph") || says(&whole[..40]).contains("breaks off"));
    }
}
