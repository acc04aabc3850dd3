//! Cattle: draws, heading off, holding, and how fresh a cow is.

mod draws;
mod fence;
mod herd;
mod leaving;
mod practice;
