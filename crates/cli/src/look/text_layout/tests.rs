use super::{TextLayout, Tone};
use crate::look::{Colour, Detail, OutputStyle};
use rstest::rstest;

fn look(width: usize) -> OutputStyle {
    OutputStyle {
        terminal: false,
        width,
        color: Colour::Off,
        error_color: Colour::Off,
        plain: false,
        progress: false,
        detail: Detail::Normal,
    }
}

fn drawn(look: &OutputStyle, draw: impl FnOnce(&mut TextLayout<'_>)) -> String {
    let mut layout = TextLayout::new(look);
    draw(&mut layout);
    layout.into_text()
}

#[rstest]
#[case::wide(60, "  Why: the station reads it when it starts\n")]
#[case::narrow(32, "  Why: the station reads it when\n       it starts\n")]
fn text_behind_a_label_is_indented_to_where_it_starts(#[case] width: usize, #[case] expected: &str) {
    let text = drawn(&look(width), |layout| {
        layout.labelled(2, ("Why:", Tone::Quiet), 5, ("the station reads it when it starts", Tone::Body));
    });
    assert_eq!(text, expected);
}

#[rstest]
#[case::a_word_that_fits_goes_to_the_next_line_whole(
    "the key is at /home/mate/.config/driftbuoy/buoy.key",
    "the key is at\n/home/mate/.config/driftbuoy/buoy.key\n"
)]
#[case::a_longer_one_breaks_behind_its_separators(
    "at /home/mate/.config/driftbuoy/station/buoy.key",
    "at /home/mate/.config/driftbuoy/\nstation/buoy.key\n"
)]
#[case::one_without_any_is_broken_where_it_must(
    "0123456789012345678901234567890123456789",
    "01234567890123456789012345678901234567\n89\n"
)]
fn a_path_is_not_torn_without_need(#[case] text: &str, #[case] expected: &str) {
    assert_eq!(drawn(&look(38), |layout| layout.block(0, text, Tone::Body)), expected);
}

#[test]
fn commands_are_never_broken_and_nothing_outside_reaches_the_paper_raw() {
    let long = "sudo apt-get install a-package-with-a-long-name another-package-with-a-long-name";
    assert_eq!(drawn(&look(40), |layout| layout.copyable(4, long)), format!("    {long}\n"));
    let shown = drawn(&look(80), |layout| {
        layout.block(0, "a\u{1b}[31mb\nc\u{202e}d", Tone::Body);
        layout.copyable(0, "x\u{7}\ny");
    });
    assert_eq!(shown, "a\\x1b[31mb\nc\\u{202e}d\nx\\x07\\ny\n");
}

#[test]
fn colour_surrounds_whole_lines_and_is_left_out_where_it_is_off() {
    let coloured = OutputStyle { color: Colour::On, ..look(32) };
    let text = drawn(&coloured, |layout| layout.block(2, "not met: this line is wrapped once", Tone::Strong));
    assert_eq!(text, "  \u{1b}[1mnot met: this line is wrapped\u{1b}[0m\n  \u{1b}[1monce\u{1b}[0m\n");
    assert!(!drawn(&look(32), |layout| layout.heading("Tools")).contains('\u{1b}'));
}

#[test]
fn plain_paper_has_only_ascii_and_gaps_do_not_add_up() {
    let plain = OutputStyle { plain: true, ..look(80) };
    let text = drawn(&plain, |layout| {
        layout.block(0, "“Überbrückung” – fertig…", Tone::Body);
        layout.gap();
        layout.gap();
        layout.heading("Ende");
    });
    assert_eq!(text, "\"\\u{dc}berbr\\u{fc}ckung\" - fertig...\n\nEnde\n\n");
}
