//! The real interface, in a browser: every test of this crate from outside, as one program, which links once instead of once a file.

mod alterations;
mod blocks;
mod dates;
mod drapes;
mod every_view;
mod fitting;
mod front_end;
mod house_ways;
mod measuring;
mod nine_steps;
mod ordinary_days;
mod practice;
mod rounds_of_corrections;
mod tabs_and_zoom;
mod typed_pressed_kept;
