//! A line cut into words, marks and notes, each with where it stands.

/// A piece of a line: characters `from` up to, not including, `to`.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Token {
    pub kind: Kind,
    pub text: String,
    pub from: usize,
    pub to: usize,
}

#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Kind {
    /// Letters and figures up to a blank or a mark.
    Word,
    /// `·`, `;` or `|`: the next set.
    Next,
    /// `,`: the same rung again.
    Again,
    /// What stood between quotes.
    Note,
    /// A quote that is not closed.
    OpenNote,
}

/// Where the colon is behind a horse, a day and what is told of the ride in parentheses.
pub(super) fn header(line: &[char]) -> Option<usize> {
    let colon = line.iter().position(|&c| c == ':')?;
    let plain = |c: &char| !matches!(c, '·' | ';' | '|' | ',' | '"' | '/');
    let open = line[..colon].iter().position(|&c| c == '(').unwrap_or(colon);
    line[..open].iter().all(plain).then_some(colon)
}

pub(super) fn tokens(line: &[char], start: usize) -> Vec<Token> {
    let mut out = vec![];
    let mut at = start;
    while at < line.len() {
        let (kind, to) = match line[at] {
            c if c.is_whitespace() => {
                at += 1;
                continue;
            }
            '·' | ';' | '|' => (Kind::Next, at + 1),
            ',' => (Kind::Again, at + 1),
            '"' => match line[at + 1..].iter().position(|&c| c == '"') {
                Some(n) => (Kind::Note, at + n + 2),
                None => (Kind::OpenNote, line.len()),
            },
            _ => {
                let end = |c: &char| c.is_whitespace() || matches!(c, '·' | ';' | '|' | ',' | '"');
                (Kind::Word, line[at..].iter().position(end).map_or(line.len(), |n| at + n))
            }
        };
        let inner = if kind == Kind::Note { &line[at + 1..to - 1] } else { &line[at..to] };
        out.push(Token { kind, text: inner.iter().collect(), from: at, to });
        at = to;
    }
    out
}
