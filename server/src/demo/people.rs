//! Who is in the demo barn: people, all of them invented.

use cavesson_core::barn::Role;

pub(super) struct Person {
    pub(super) name: &'static str,
    pub(super) role: Role,
}

pub(super) const MARA: &str = "Mara Quill";
pub(super) const DELL: &str = "Dell Okafor";
pub(super) const JUNE: &str = "June Sandry";
pub(super) const OREN: &str = "Oren Vale";
pub(super) const IVES: &str = "Petra Ives";
pub(super) const LOMAX: &str = "Tobin Lomax";
pub(super) const STORR: &str = "Walt Storr";
pub(super) const FARROW: &str = "Rhea Farrow";
pub(super) const CALDER: &str = "Tess Calder";
pub(super) const DUNMORE: &str = "Sol Dunmore";
pub(super) const QUINT: &str = "Rosa Quint";
pub(super) const BRAMWELL: &str = "Vern Bramwell";

pub(super) const PEOPLE: [Person; 12] = [
    Person { name: MARA, role: Role::Trainer },
    Person { name: DELL, role: Role::Assistant },
    Person { name: JUNE, role: Role::Assistant },
    Person { name: OREN, role: Role::Assistant },
    Person { name: IVES, role: Role::Owner },
    Person { name: LOMAX, role: Role::Owner },
    Person { name: STORR, role: Role::Owner },
    Person { name: FARROW, role: Role::Owner },
    Person { name: CALDER, role: Role::Owner },
    Person { name: DUNMORE, role: Role::Owner },
    Person { name: QUINT, role: Role::Owner },
    Person { name: BRAMWELL, role: Role::Owner },
];
