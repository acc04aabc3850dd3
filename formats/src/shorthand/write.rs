use cavesson_core::{count::Count, curriculum::Side};

use super::{ParsedRide, Set, SetResult, facts, set::STAGES};

/// A ride in shorthand, one line. Read again it is the same ride, where its horse is known and its note holds no quote.
///
/// ```
/// use cavesson_core::curriculum::Curriculum;
/// use cavesson_formats::shorthand::{Lexicon, parse, write};
/// let lexicon = Lexicon::new(Curriculum::standard(), &[], &["Juniper".to_owned()]).unwrap();
/// let read = parse("Juniper 2026-03-02: flex L 6/8 egg", &lexicon);
/// let again = parse(&write(&read.rides[0]), &lexicon);
/// assert_eq!(again.rides, read.rides);
/// ```
pub fn write(ride: &ParsedRide) -> String {
    let mut parts: Vec<String> = ride.sets.iter().map(write_set).collect();
    if !ride.signs.is_empty() {
        parts.push(ride.signs.join(" "));
    }
    if !ride.note.is_empty() {
        parts.push(format!("\"{}\"", ride.note.replace('"', "'")));
    }
    let date = ride.date.map(|d| d.to_string());
    let facts = Some(facts::write(&ride.facts)).filter(|f| !f.is_empty()).map(|f| format!("({f})"));
    let header: Vec<&str> = ride.horse.as_deref().into_iter().chain(date.as_deref()).chain(facts.as_deref()).collect();
    let sets = parts.join(" · ");
    if header.is_empty() { sets } else { format!("{}: {sets}", header.join(" ")) }
}

/// A set in shorthand.
///
/// ```
/// use cavesson_core::curriculum::Curriculum;
/// use cavesson_formats::shorthand::{Lexicon, parse, write_set};
/// let lexicon = Lexicon::new(Curriculum::standard(), &[], &["Juniper".to_owned()]).unwrap();
/// let read = parse("flex L 6/8 egg 1.5s", &lexicon);
/// assert_eq!(write_set(&read.rides[0].sets[0]), "S1 stand L 6/8 egg 1.5s");
/// ```
pub fn write_set(set: &Set) -> String {
    let mut words = vec![set.rung.clone(), set.gait.word().to_owned()];
    match set.side {
        Side::Left => words.push("L".to_owned()),
        Side::Right => words.push("R".to_owned()),
        Side::Both => {}
    }
    match &set.result {
        SetResult::Reps { gave, tried, none } => {
            let all = u16::from(*gave) + u16::from(*tried) + u16::from(*none);
            words.push(if *tried > 0 { format!("{gave}+{tried}/{all}") } else { format!("{gave}/{all}") });
            words.push(set.weight.word().to_owned());
            words.extend(set.time.map(|t| format!("{}s", t.seconds())));
        }
        SetResult::Counted(count) => words.push(write_count(count)),
    }
    words.extend(set.faults.iter().cloned());
    words.join(" ")
}

/// A count in shorthand: `3laps soft`.
pub fn write_count(count: &Count) -> String {
    let soft = |soft: bool| if soft { "soft" } else { "stiff" };
    match count {
        Count::Laps { laps, soft: s } => format!("{laps}laps {}", soft(*s)),
        Count::NoseUps { circles, ups } => format!("{ups}/{circles}"),
        Count::SetUps { asked, accepted } => format!("{accepted}/{asked}"),
        Count::Mounts { mounts, loose } => format!("{loose}/{mounts}"),
        Count::ReinShare { bridle, soft: s, .. } => format!("{bridle}% {}", soft(*s)),
        Count::Held { seconds, lost } => format!("{seconds}s {}", soft(!lost)),
        Count::Steps { steps, broke } => format!("{steps}steps {}", soft(!broke)),
        Count::Tries { tries } => {
            let stage = |t: &_| STAGES.iter().find(|(_, r)| r == t).map_or("looks", |(w, _)| *w);
            tries.iter().map(stage).collect::<Vec<_>>().join(">")
        }
    }
}
