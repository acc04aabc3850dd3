//! A line of text cut into numbers, words and its comment.

/// What a token is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Kind {
    Number,
    Word,
    /// A character that begins neither.
    Other,
}

/// One token, as long as it can be.
#[derive(Debug, Clone, Copy)]
pub(super) struct Token<'a> {
    pub kind: Kind,
    pub text: &'a str,
    /// In characters, from 1.
    pub column: u32,
}

impl Token<'_> {
    pub(super) fn is(&self, word: &str) -> bool {
        self.kind == Kind::Word && self.text.eq_ignore_ascii_case(word)
    }

    /// The column right behind it.
    pub(super) fn behind(&self) -> u32 {
        self.column + self.text.chars().count() as u32
    }
}

/// A line: its tokens, and what stands behind its `#`.
pub(super) struct Line<'a> {
    pub tokens: Vec<Token<'a>>,
    pub comment: Option<&'a str>,
}

/// Blanks of the language.
const BLANKS: [char; 3] = [' ', '\t', '\r'];

/// Cuts one line, without its line feed.
pub(super) fn cut(line: &str) -> Line<'_> {
    let (code, comment) = match line.split_once('#') {
        Some((code, comment)) => (code, Some(comment.trim_matches(BLANKS))),
        None => (line, None),
    };
    let mut tokens = vec![];
    let (mut rest, mut column) = (code, 1);
    while let Some(first) = rest.chars().next() {
        if BLANKS.contains(&first) {
            rest = &rest[1..];
            column += 1;
            continue;
        }
        let (kind, length) = token(rest, first);
        let (text, after) = rest.split_at(length);
        tokens.push(Token { kind, text, column });
        column += text.chars().count() as u32;
        rest = after;
    }
    Line { tokens, comment }
}

/// What begins here, and how many bytes of it there are.
fn token(rest: &str, first: char) -> (Kind, usize) {
    let digits = |from: usize| rest[from..].bytes().take_while(u8::is_ascii_digit).count();
    if first.is_ascii_alphabetic() {
        let in_word = |byte: &u8| byte.is_ascii_alphanumeric() || matches!(byte, b'_' | b'-');
        return (Kind::Word, rest.bytes().take_while(in_word).count());
    }
    let sign = usize::from(first == '-');
    let whole = digits(sign);
    if whole == 0 {
        return (Kind::Other, first.len_utf8());
    }
    let end = sign + whole;
    let fraction = if rest[end..].starts_with('.') { digits(end + 1) } else { 0 };
    (Kind::Number, if fraction > 0 { end + 1 + fraction } else { end })
}
