//! probe
#[path = "../tests/it/common/mod.rs"]
mod common;
use std::time::Instant;
use yardwand_core::draft::*; use yardwand_core::Style; use yardwand_core::alter::*; use yardwand_core::pattern::*;
fn main(){
  for kind in [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional] {
  let bodies=common::bodies(6,71);
  let t=Instant::now();
  let pats:Vec<_>=bodies.iter().filter_map(|b| draft(b,&Method{kind,with_sleeve:true,..Method::default()},Style::EIGHTHS).ok()).map(|d|d.pattern).collect();
  println!("{kind:?} draft {:?}", t.elapsed()/6);
  let t=Instant::now(); for p in &pats { std::hint::black_box(check_pattern(p,Style::EIGHTHS)); } println!(" check {:?}",t.elapsed()/6);
  for code in ["full_bust","rounded_back","shoulder_slope","princess_line","side_seams","narrow_shoulder","back_width","length","front_balance","forward_shoulder","gaping_armhole"] {
   let r=Recipe::default().and(code,Amounts::of(6.0),"");
   let t=Instant::now(); for p in &pats { std::hint::black_box(make(p,&r,Style::EIGHTHS)); } println!("  {code} {:?}",t.elapsed()/6);
  }
  let r=Recipe::default().and("full_bust",Amounts::of(6.0),"").and("rounded_back",Amounts::of(6.0),"").and("shoulder_slope",Amounts::of(4.0),"").and("side_seams",Amounts::of(4.0),"").and("back_width",Amounts::of(4.0),"").and("front_width",Amounts::of(2.0),"").and("sway_back",Amounts::of(4.0),"").and("neck",Amounts::of(4.0),"");
  let t=Instant::now(); for p in &pats { std::hint::black_box(make(p,&r,Style::EIGHTHS)); } println!("  eight {:?}",t.elapsed()/6);
  let t=Instant::now(); for p in &pats { std::hint::black_box(preview(p,&r,None,Style::EIGHTHS)); } println!("  eight drawn {:?}",t.elapsed()/6);
  }
}
