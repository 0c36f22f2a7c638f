//! A terminal at which a person of the throwaway root types, one line after the other.

use rustix::pty::{OpenptFlags, grantpt, openpt, ptsname, unlockpt};
use rustix::termios::{Winsize, tcgetpgrp, tcsetwinsize};
use std::fs::File;
use std::io::{Read, Write};
use std::os::fd::OwnedFd;
use std::sync::{Arc, Mutex};
use std::time::{Duration, Instant};

/// What a person waits for one line before they give up.
const PATIENCE: Duration = Duration::from_secs(30);
/// How long nothing has to come before a terminal counts as quiet.
const QUIET: Duration = Duration::from_millis(150);

pub struct Terminal {
    keyboard: File,
    screen: Arc<Mutex<Vec<u8>>>,
    /// The file that the terminal is for the programs in it.
    pub device: String,
    /// The process group of the shell: it has the terminal whenever nothing else runs.
    shell: Option<i32>,
    password: Option<String>,
    /// How its shell calls the status of the last command.
    status: &'static str,
    typed: usize,
}

impl Terminal {
    pub fn open(shell: &str, password: Option<&str>) -> Self {
        let main: OwnedFd = openpt(OpenptFlags::RDWR | OpenptFlags::NOCTTY | OpenptFlags::CLOEXEC).unwrap();
        grantpt(&main).unwrap();
        unlockpt(&main).unwrap();
        let device = ptsname(&main, Vec::new()).unwrap().into_string().unwrap();
        tcsetwinsize(&main, Winsize { ws_row: 50, ws_col: 400, ws_xpixel: 0, ws_ypixel: 0 }).unwrap();
        let status = if shell.starts_with("fish") || shell.starts_with("tcsh") { "$status" } else { "$?" };
        let keyboard = File::from(main);
        let screen = Arc::new(Mutex::new(Vec::new()));
        let (mut from, to) = (keyboard.try_clone().unwrap(), Arc::clone(&screen));
        std::thread::spawn(move || {
            let mut buffer = [0; 4096];
            loop {
                match from.read(&mut buffer) {
                    Ok(0) => break,
                    Ok(length) => to.lock().unwrap().extend_from_slice(&buffer[..length]),
                    // Nobody has it open yet, or nobody any more.
                    Err(_) if Arc::strong_count(&to) > 1 => std::thread::sleep(Duration::from_millis(20)),
                    Err(_) => break,
                }
            }
        });
        Self { keyboard, screen, device, shell: None, password: password.map(ToOwned::to_owned), status, typed: 0 }
    }

    pub fn text(&self) -> String {
        String::from_utf8_lossy(&self.screen.lock().unwrap()).replace('\r', "")
    }

    fn length(&self) -> usize {
        self.screen.lock().unwrap().len()
    }

    fn foreground(&self) -> Option<i32> {
        tcgetpgrp(&self.keyboard).ok().map(|group| group.as_raw_nonzero().get())
    }

    /// Waits until the shell has the terminal and is quiet; answers what is asked meanwhile as an obliging person would. False where it never came.
    fn wait(&mut self) -> bool {
        let begun = Instant::now();
        let (mut length, mut since) = (self.length(), Instant::now());
        while begun.elapsed() < PATIENCE {
            std::thread::sleep(Duration::from_millis(15));
            let now = self.length();
            if now != length {
                (length, since) = (now, Instant::now());
                continue;
            }
            let foreground = self.foreground();
            match self.shell {
                // The first prompt: whoever has the terminal then is the shell.
                None if since.elapsed() > QUIET * 2 && length > 0 && foreground.is_some() => {
                    self.shell = foreground;
                    return true;
                }
                Some(_) if foreground == self.shell && since.elapsed() > QUIET => return true,
                Some(_) if foreground != self.shell && since.elapsed() > QUIET * 3 => {
                    let text = self.text();
                    let last = plain(text.rsplit('\n').next().unwrap_or_default());
                    let last = last.trim_end();
                    let secret = (last.contains("[sudo]") && last.ends_with(':')) || last.ends_with("Password:");
                    let answer = match &self.password {
                        Some(password) if secret => password.clone(),
                        // Who has none gives up.
                        None if secret => return self.gives_up(),
                        // Our own question, whether commands of the guide may run.
                        _ if last.ends_with("leave them out:") => String::new(),
                        _ if ["[Y/n]", "(y/n)", "[y/N]", "(y/N)", "[y/N]:", "(y):", "?"]
                            .iter()
                            .any(|end| last.ends_with(end)) =>
                        {
                            "y".to_owned()
                        }
                        _ => continue,
                    };
                    writeln!(self.keyboard, "{answer}").unwrap();
                    since = Instant::now();
                }
                _ => {}
            }
        }
        self.gives_up()
    }

    /// Ctrl-C.
    fn gives_up(&mut self) -> bool {
        let _ = self.keyboard.write_all(&[3]);
        std::thread::sleep(QUIET * 2);
        false
    }

    /// Types a line and waits for its end. Gives its status, or none where it never ended.
    pub fn type_line(&mut self, line: &str) -> Option<i32> {
        if self.shell.is_none() {
            self.wait();
        }
        let mut ended = true;
        for line in line.lines().filter(|line| !line.trim().is_empty()) {
            writeln!(self.keyboard, "{line}").unwrap();
            ended &= self.wait();
        }
        self.typed += 1;
        // Written in two parts, so that the line as typed is not taken for what came of it.
        let mark = format!("mark{}=", self.typed);
        writeln!(self.keyboard, "echo \"ma\"\"rk{}=\"{}", self.typed, self.status).unwrap();
        self.wait();
        let text = self.text();
        let (_, after) = text.rsplit_once(&mark)?;
        let status = after.split(|letter: char| !letter.is_ascii_digit()).next().and_then(|digits| digits.parse().ok());
        status.filter(|_| ended)
    }
}

/// Words without colours and movements (ECMA-48's control sequences).
fn plain(line: &str) -> String {
    let mut parts = line.split("\x1b[");
    let first = parts.next().unwrap_or_default().to_owned();
    parts.fold(first, |all, part| all + part.trim_start_matches(|c: char| !c.is_ascii_alphabetic()).get(1..).unwrap_or_default())
}
