//! The fit of the settings.

use cavesson_core::{advice::Posture, belief::ModelSettings};
use cavesson_judge::{Descent, Family, KNOBS, fit, fit_table, leave_one_out, round_numbers, tally};
use cavesson_sim::KINDS;

const ONCE: Descent = Descent { sweeps: 1, threads: 2 };

fn loss(family: &Family, settings: &ModelSettings) -> f64 {
    tally(family, Posture::Steady, settings).log_loss
}

#[test]
fn a_setting_that_is_far_off_is_brought_back() {
    let family = Family::of_kind(&KINDS[0], 6, 3);
    let mut off = ModelSettings::default();
    off.signs.try_width = 4.0;
    off.learning.ceiling.mean = 0.5;
    let mut told = vec![];
    let fitted = fit(&[&family], off, ONCE, &mut |line| told.push(line));
    assert!(fitted.learning.ceiling.mean > off.learning.ceiling.mean, "{told:?}");
    assert!(loss(&family, &fitted) < 0.97 * loss(&family, &off), "{told:?}");
    assert!(told.iter().all(|line| line.contains("log loss 0.")), "each move made it better: {told:?}");
}

#[test]
fn every_setting_moves_and_comes_back() {
    let start = ModelSettings::default();
    for knob in &KNOBS {
        let mut settings = start;
        knob.turn(&mut settings, 1.0);
        assert_ne!(settings, start, "{}", knob.name);
        assert!(knob.value(&settings) != knob.value(&start) && knob.value(&settings).is_finite(), "{}", knob.name);
        knob.turn(&mut settings, -1.0);
        assert!((knob.value(&settings) - knob.value(&start)).abs() < 1e-9, "{}", knob.name);
    }
    let mut names: Vec<&str> = KNOBS.iter().map(|k| k.name).collect();
    names.sort_unstable();
    names.dedup();
    assert_eq!(names.len(), KNOBS.len(), "no setting stands twice");
}

#[test]
fn a_family_that_is_left_out_is_told_with_both_settings() {
    let families = [Family::of_kind(&KINDS[0], 2, 1), Family::of_kind(&KINDS[1], 2, 1)];
    let out = leave_one_out(&families, &[1, 7], Descent { sweeps: 0, threads: 1 }, &mut |_| {});
    assert_eq!(out.len(), 1, "there is no eighth family");
    assert_eq!(out[0].without.0.log_loss, loss(&families[1], &round_numbers()), "no sweep moves nothing");
    assert_eq!(out[0].in_use.0.log_loss, loss(&families[1], &ModelSettings::default()));
    let table = fit_table(&out);
    assert!(table.contains("sound, in use") && table.contains("sound, without it"), "{table}");
}
