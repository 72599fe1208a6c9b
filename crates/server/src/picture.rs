//! Photographs: read whatever a camera makes, turned upright, made smaller, written anew. What is kept carries no
//! place, no camera and no name.

use std::io::Cursor;
use std::time::Duration;

use image::metadata::Orientation;
use image::{DynamicImage, ImageDecoder, ImageFormat, ImageReader, Limits};
use jpeg_encoder::{ColorType, Encoder, SamplingFactor};

use crate::error::ApiError;
use crate::turns::Turns;

/// The most pixels that are read: what a telephone's camera makes at its finest.
const MOST_PIXELS: u64 = 50_000_000;
/// The most memory that a picture may take when it is read, in bytes: three for each of those pixels.
const MOST_MEMORY: u64 = 3 * MOST_PIXELS;
/// How many are read at once, and how many may be there in all: those and the ones that wait.
const AT_ONCE: usize = 2;
const AT_MOST: usize = 16;
/// Longer than this nobody waits for a turn.
const PATIENCE: Duration = Duration::from_secs(60);

/// What a photograph is kept for.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Kept {
    /// To be looked at.
    ToLookAt,
    /// For places to be clicked in it: as fine as a main lens makes it.
    ToMeasureIn,
}

impl Kept {
    /// Longest side of what is kept, in pixels.
    const fn longest(self) -> u32 {
        match self {
            Self::ToLookAt => 1600,
            Self::ToMeasureIn => 4800,
        }
    }

    /// How faithfully it is written.
    const fn quality(self) -> u8 {
        match self {
            Self::ToLookAt => 82,
            Self::ToMeasureIn => 90,
        }
    }
}

/// A photograph as it is kept.
pub(crate) struct Picture {
    /// JPEG without metadata.
    pub(crate) bytes: Vec<u8>,
    pub(crate) width: u32,
    pub(crate) height: u32,
}

/// The server's only way to read photographs: two at once, and a few more that wait. Cheap to clone.
#[derive(Clone, Debug)]
pub struct Pictures(Turns);

impl Default for Pictures {
    fn default() -> Self {
        Self(Turns::new(AT_ONCE, AT_MOST, PATIENCE))
    }
}

impl Pictures {
    /// Reads a photograph and writes it anew, when it is its turn.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait; a field's error for what is no photograph.
    pub(crate) async fn taken_in(
        &self,
        bytes: impl AsRef<[u8]> + Send + 'static,
        kept: Kept,
    ) -> Result<Picture, ApiError> {
        let read = self.0.through(move || taken_in(bytes.as_ref(), kept)).await?;
        read.map_err(|says| ApiError::field("/photograph", says))
    }
}

/// Reads a photograph and writes it anew.
///
/// # Errors
///
/// A sentence: what it is not, or that it is too large.
pub(crate) fn taken_in(bytes: &[u8], kept: Kept) -> Result<Picture, String> {
    let longest = kept.longest();
    const UNREADABLE: &str = "this is no photograph that can be read: send a JPEG, PNG or WebP picture";
    const BREAKS_OFF: &str = "this photograph breaks off in the middle: send it again";
    const TOO_MANY: &str = "this photograph has more than 50 million pixels: send a smaller copy";
    let mut reader = ImageReader::new(Cursor::new(bytes)).with_guessed_format().map_err(|_| UNREADABLE)?;
    let format = reader.format().ok_or(UNREADABLE)?;
    let mut limits = Limits::default();
    limits.max_alloc = Some(MOST_MEMORY);
    reader.limits(limits);
    let mut decoder = reader.into_decoder().map_err(|error| match error {
        image::ImageError::Limits(_) => TOO_MANY,
        _ => UNREADABLE,
    })?;
    // Before a byte of it is read: a small file may hold a very large picture.
    let (width, height) = decoder.dimensions();
    if u64::from(width) * u64::from(height) > MOST_PIXELS || decoder.total_bytes() > MOST_MEMORY {
        return Err(TOO_MANY.to_owned());
    }
    if format == ImageFormat::Jpeg && !jpeg_ends(bytes) {
        return Err(BREAKS_OFF.to_owned());
    }
    let orientation = decoder.orientation().unwrap_or(Orientation::NoTransforms);
    let mut picture = DynamicImage::from_decoder(decoder).map_err(|_| BREAKS_OFF)?;
    // Made smaller first: turning takes its memory once more.
    if picture.width().max(picture.height()) > longest {
        picture = picture.resize(longest, longest, image::imageops::FilterType::Triangle);
    }
    picture.apply_orientation(orientation);
    let picture = picture.into_rgb8();
    let (width, height) = (picture.width(), picture.height());
    let sides = u16::try_from(width).ok().zip(u16::try_from(height).ok());
    let mut written = Vec::new();
    sides
        .and_then(|(wide, high)| {
            let mut encoder = Encoder::new(&mut written, kept.quality());
            // As cameras do: marks are told by light and dark.
            encoder.set_sampling_factor(SamplingFactor::F_2_2);
            encoder.encode(&picture, wide, high, ColorType::Rgb).ok()
        })
        .ok_or("this photograph cannot be written anew: send it as a JPEG")?;
    Ok(Picture { bytes: written, width, height })
}

/// Whether a JPEG has its end: a reader fills up one that was cut off with grey, and says nothing.
///
/// The segments before the picture are skipped by their lengths, as the small picture in one of them has an end too; in the
/// picture itself a byte 0xFF is followed by 0 unless it is a marker (ITU-T T.81, B.1.1).
fn jpeg_ends(bytes: &[u8]) -> bool {
    const START_OF_SCAN: u8 = 0xda;
    let mut rest = bytes.get(2..).unwrap_or_default();
    loop {
        match rest {
            // Any number of them may stand before a marker.
            [0xff, 0xff, ..] => rest = &rest[1..],
            [0xff, START_OF_SCAN, picture @ ..] => {
                return picture.windows(2).any(|pair| pair == [0xff, 0xd9]);
            }
            [0xff, _, high, low, ..] => {
                let length = usize::from(u16::from_be_bytes([*high, *low]));
                rest = rest.get(2 + length..).unwrap_or_default();
            }
            _ => return false,
        }
    }
}

#[cfg(test)]
mod tests {
    use image::codecs::jpeg::JpegEncoder;

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
        let kept = taken_in(&taken, Kept::ToLookAt).unwrap();
        assert_eq!((kept.width, kept.height), (800, 1600), "orientation 6 is a quarter turn");
        assert!(!kept.bytes.windows(4).any(|part| part == b"Exif" || part == b"GPS "));
        assert_eq!(&kept.bytes[..2], [0xff, 0xd8]);
        // What is measured in keeps every pixel of its camera.
        let fine = taken_in(&taken, Kept::ToMeasureIn).unwrap();
        assert_eq!((fine.width, fine.height), (1200, 2400));
    }

    #[test]
    fn a_jpeg_that_is_cut_off_anywhere_is_turned_down() {
        // With a small picture in front, which has an end of its own.
        let whole = with_exif(&jpeg(640, 480));
        let mut exif = jpeg(64, 48);
        exif.splice(0..0, *b"Exif\0\0");
        let mut with_thumbnail = whole[..2].to_vec();
        with_thumbnail.extend([0xff, 0xe1]);
        with_thumbnail.extend((exif.len() as u16 + 2).to_be_bytes());
        with_thumbnail.extend(exif);
        with_thumbnail.extend(&whole[2..]);
        for whole in [whole, with_thumbnail] {
            assert!(taken_in(&whole, Kept::ToLookAt).is_ok());
            for part in 1..40 {
                let cut = whole.len() * part / 40;
                assert!(
                    taken_in(&whole[..cut], Kept::ToLookAt).is_err(),
                    "cut off at {cut} of {}",
                    whole.len()
                );
            }
            // What a camera writes behind its end is no fault.
            let mut more = whole.clone();
            more.extend(b"a film of the same moment");
            assert!(taken_in(&more, Kept::ToLookAt).is_ok());
        }
    }

    #[test]
    fn a_small_file_with_a_very_large_picture_is_turned_down_before_it_is_read() {
        let mut png = Vec::new();
        let black = image::GrayImage::new(9000, 6000);
        black.write_to(&mut Cursor::new(&mut png), ImageFormat::Png).unwrap();
        assert!(png.len() < 400_000, "{} bytes", png.len());
        assert!(taken_in(&png, Kept::ToLookAt).err().unwrap().contains("50 million pixels"));
        // Four bytes a pixel, twice as deep: fewer pixels, and as much memory.
        let mut deep = Vec::new();
        let clear = image::DynamicImage::new_rgba16(6000, 4000);
        clear.write_to(&mut Cursor::new(&mut deep), ImageFormat::Png).unwrap();
        assert!(taken_in(&deep, Kept::ToLookAt).err().unwrap().contains("50 million pixels"));
    }

    #[test]
    fn what_is_no_photograph_gets_its_sentence() {
        let says = |bytes: &[u8]| taken_in(bytes, Kept::ToLookAt).err().unwrap();
        assert!(says(b"shopping list: pins, chalk, muslin").contains("no photograph"));
        assert!(says(b"").contains("no photograph"));
        let whole = jpeg(600, 600);
        assert!(says(&whole[..40]).contains("no photograph") || says(&whole[..40]).contains("breaks off"));
    }
}
