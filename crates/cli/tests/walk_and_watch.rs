//! The two ways to stay until a machine is ready, with somebody (here a test) who does meanwhile what they say.

use crate::harness::{Bench, listened_to, text};
use std::io::Write;
use std::net::TcpListener;
use std::process::{Child, ChildStdin, Stdio};
use std::sync::mpsc::Receiver;
use std::time::Duration;

/// The program while it runs, and what it has written so far.
struct Running {
    child: Child,
    input: Option<ChildStdin>,
    written: Receiver<Vec<u8>>,
    seen: String,
}

impl Running {
    fn start(bench: &Bench, arguments: &[&str], input: Stdio) -> Self {
        let (mut child, written) = listened_to(bench.command(&[], arguments).stdin(input));
        Self { input: child.stdin.take(), child, written, seen: String::new() }
    }

    /// Waits until it has written this; what was written before it is done with.
    fn until(&mut self, words: &str) -> String {
        loop {
            if let Some(at) = self.seen.find(words) {
                return self.seen.drain(..at + words.len()).collect();
            }
            let Ok(bytes) = self.written.recv_timeout(Duration::from_secs(60)) else {
                panic!("never wrote {words:?}, but {}", self.seen)
            };
            self.seen.push_str(&text(&bytes));
        }
    }

    fn types(&mut self, line: &str) {
        writeln!(self.input.as_mut().unwrap(), "{line}").unwrap();
    }

    fn ends(mut self) -> i32 {
        drop(self.input.take());
        self.child.wait().unwrap().code().unwrap()
    }
}

const TWO_STAGES: &str = "
    [[stage]]\nid = \"place\"\ntitle = \"A place\"\nintro = \"Where charts go.\"
    [[stage]]\nid = \"tools\"\ntitle = \"Tools\"
    [require.charts]\nfolder = \"charts\"\nstage = \"place\"
    [require.plotter]\ntool = \"plotter\"\nversion = \">= 2\"\nstage = \"tools\"\ntitle = \"the plotter\"
    [require.pens]\ntool = \"pens\"\nstage = \"tools\"\nlevel = \"should\"\n";

const PROMPT: &str = "Enter: check again. Or type explain, skip or quit, and Enter.\n> ";

#[test]
fn walk_goes_from_not_ready_to_ready_and_remembers_the_place() {
    let bench = Bench::new(TWO_STAGES);
    let mut walk = Running::start(&bench, &["walk"], Stdio::piped());
    let first = walk.until(PROMPT);
    assert!(first.contains("Stage 1 of 2: A place") && first.contains("Where charts go."), "{first}");
    assert!(first.contains("mkdir "), "{first}");
    walk.types("");
    assert!(walk.until(PROMPT).contains("Nothing has changed yet. Still open: "));
    walk.types("row");
    assert!(walk.until(PROMPT).contains("row is none of the words here"));
    std::fs::create_dir(bench.project().join("charts")).unwrap();
    walk.types("");
    let second = walk.until(PROMPT);
    assert!(second.contains("Met now: ") && second.contains("Stage 2 of 2: Tools"), "{second}");
    walk.types("explain ploter");
    assert!(walk.until(PROMPT).contains("Nothing in this guide is called ploter. Did you mean plotter?"));
    walk.types("explain plotter");
    assert!(walk.until(PROMPT).contains("copies of plotter on PATH"));
    walk.types("quit");
    walk.until("To go on from this stage: setup-ready walk");
    assert_eq!(walk.ends(), 1);

    let mut walk = Running::start(&bench, &["walk"], Stdio::piped());
    let first = walk.until(PROMPT);
    assert!(first.contains("You were at stage 2 last time") && !first.contains("Stage 1"), "{first}");
    bench.program("plotter", "echo plotter 2.1");
    walk.types("");
    // What is only recommended is shown, and keeps nobody at its stage.
    let news = walk.until("Everything, once more");
    assert!(news.contains("Met now: the plotter.") && news.contains("pens was not found"), "{news}");
    walk.until("Still open: pens.");
    walk.until("READY");
    assert_eq!(walk.ends(), 0);

    // Whoever is ready starts from the beginning another time.
    let mut walk = Running::start(&bench, &["walk"], Stdio::piped());
    walk.until("Stage 1 of 2");
    walk.until("READY");
    assert_eq!(walk.ends(), 0);
}

#[test]
fn walk_works_through_a_pipe_and_ends_with_its_input() {
    let bench = Bench::new(TWO_STAGES);
    let mut walk = Running::start(&bench, &["walk"], Stdio::null());
    let all = walk.until("The input has ended. To go on from this stage: setup-ready walk");
    assert!(all.contains("Stage 1 of 2") && !all.contains("Stage 2 of 2"), "{all}");
    assert_eq!(walk.ends(), 1);
    let mut walk = Running::start(&bench, &["walk"], Stdio::piped());
    walk.types("skip\nskip");
    walk.until("NOT READY");
    assert_eq!(walk.ends(), 1);
}

#[test]
fn watch_looks_again_while_a_port_is_freed_and_a_folder_made_and_ends_when_ready() {
    let held = TcpListener::bind("127.0.0.1:0").unwrap();
    let port = held.local_addr().unwrap().port();
    let bench = Bench::new(&format!(
        "[require.room]\nport = {port}\naddress = \"127.0.0.1\"\n[require.charts]\nfolder = \"charts\"\n[require.plotter]\ntool = \"plotter\"\n"
    ));
    let mut watch = Running::start(&bench, &["preflight", "--watch"], Stdio::piped());
    let first = watch.until("Waiting until something changes, or you press Enter. Ctrl-C ends it.");
    assert!(first.contains("3 are not met"), "{first}");
    drop(held);
    watch.until(&format!("Changed: TCP port {port} at 127.0.0.1. Checking again."));
    watch.until("2 are not met");
    watch.until("Waiting until");
    watch.types("");
    watch.until("You pressed Enter. Checking again.");
    watch.until("Waiting until");
    std::fs::create_dir(bench.project().join("charts")).unwrap();
    watch.until("1 is not met");
    watch.until("Waiting until");
    // The input may end: then it goes on without.
    drop(watch.input.take());
    bench.program("plotter", "echo plotter 1");
    watch.until("READY  All 3 needed things are met.");
    assert_eq!(watch.ends(), 0);
}

#[test]
#[cfg(unix)]
fn an_interruption_ends_both_at_once() {
    for arguments in [&["preflight", "--watch"][..], &["walk"]] {
        let bench = Bench::new(TWO_STAGES);
        let mut running = Running::start(&bench, arguments, Stdio::piped());
        running.until(if arguments.len() == 1 { PROMPT } else { "Waiting until" });
        let pid = running.child.id().to_string();
        assert!(std::process::Command::new("kill").args(["-INT", &pid]).status().unwrap().success());
        assert_eq!(running.child.wait().unwrap().code(), Some(130), "{arguments:?}");
    }
}

#[test]
fn what_does_not_go_together_is_refused() {
    let bench = Bench::new(TWO_STAGES);
    for arguments in [&["preflight", "--watch", "--format", "json"][..], &["walk", "--output", "x"]] {
        let output = bench.run(arguments);
        assert_eq!(output.status.code(), Some(2), "{arguments:?}");
        assert!(text(&output.stderr).contains("Leave "), "{output:?}");
    }
}
