//! A copy of the throwaway root that is gone afterwards.

use std::io::{BufRead, BufReader, Write};
use std::path::{Path, PathBuf};
use std::process::{Child, Command, Stdio};

/// A copy of the throwaway root that is gone afterwards, with processes, network and mounts of its own.
pub struct Root {
    shell: Child,
    folder: tempfile::TempDir,
    who: String,
    booted: bool,
    managers: bool,
}

/// The base root; `THROWAWAY_ROOT` says where it is, and the one with several package managers is beside it.
fn base(managers: bool) -> PathBuf {
    let mut base = std::env::var_os("THROWAWAY_ROOT").expect("run tools/carry-out-fixes: it makes the root and says where it is");
    base.push(if managers { "-managers" } else { "" });
    PathBuf::from(base)
}

pub const PROGRAM: &str = "/usr/local/lib/setup-ready";

impl Root {
    pub fn new(who: &str, guide: &str) -> Self {
        Self::of(who, guide, false)
    }

    /// The same, of the root that has several package managers.
    pub fn of(who: &str, guide: &str, managers: bool) -> Self {
        // Which program is judged: another release's, to compare.
        let program = std::env::var("PROVEN_PROGRAM").unwrap_or_else(|_| env!("CARGO_BIN_EXE_setup-ready").to_owned());
        let folder = tempfile::tempdir().unwrap();
        let arguments = ["--mount", "--pid", "--net", "--uts", "--fork", "--kill-child", "sh"];
        let shell = Command::new("unshare").args(arguments).stdin(Stdio::piped()).stdout(Stdio::piped()).spawn().unwrap();
        let mut root = Self { shell, folder, who: who.to_owned(), booted: false, managers };
        let (base, place) = (base(managers), root.folder.path().display().to_string());
        root.host(&format!(
            "set -e; mount -t tmpfs none {place}; mkdir {place}/upper {place}/work {place}/root
            mount -t overlay none -o lowerdir={base},upperdir={place}/upper,workdir={place}/work {place}/root
            mount -t proc none {place}/root/proc; mount -t tmpfs -o mode=755 none {place}/root/dev; mount -t tmpfs none {place}/root/run
            for node in 'null 3' 'zero 5' 'full 7' 'random 8' 'urandom 9'; do mknod -m 666 {place}/root/dev/${{node% *}} c 1 ${{node#* }}; done
            mknod -m 666 {place}/root/dev/tty c 5 0; mknod -m 666 {place}/root/dev/ptmx c 5 2; mkdir {place}/root/dev/pts {place}/root/dev/shm; mount --bind /dev/pts {place}/root/dev/pts
            ln -s /proc/self/fd {place}/root/dev/fd; for n in 0:stdin 1:stdout 2:stderr; do ln -s /proc/self/fd/${{n%:*}} {place}/root/dev/${{n#*:}}; done
            touch {place}/root{PROGRAM}; mount --bind {program} {place}/root{PROGRAM}
            ip link set lo up; hostname buoy-desk; echo 127.0.0.1 localhost buoy-desk > {place}/root/etc/hosts; set +e",
            base = base.display()
        ));
        let home = root.home();
        root.put(&format!("{home}/project/setup-guide.toml"), &format!("format = 1\n[project]\nname = \"Driftbuoy\"\n{guide}\n"));
        root
    }

    pub fn home(&self) -> String {
        if self.who == "root" { "/root".to_owned() } else { format!("/home/{}", self.who) }
    }

    /// Runs a script in the namespaces, outside the root, and gives what it wrote.
    pub fn host(&mut self, script: &str) -> String {
        let input = self.shell.stdin.as_mut().unwrap();
        let end = "end of this script";
        writeln!(input, "{{ {script}\n}} 2>&1 < /dev/null; echo; echo {end}").unwrap();
        let mut written = String::new();
        let mut lines = BufReader::with_capacity(1, self.shell.stdout.as_mut().unwrap());
        loop {
            let mut line = String::new();
            assert_ne!(lines.read_line(&mut line).unwrap(), 0, "the shell ended: {written}");
            if line.trim_end() == end {
                return written;
            }
            written.push_str(&line);
        }
    }

    /// Writes a file of the person's in the root.
    pub fn put(&mut self, path: &str, text: &str) {
        let (place, who) = (self.folder.path().display().to_string(), self.who.clone());
        let folder = Path::new(path).parent().unwrap().display();
        self.host(&format!(
            "chroot {place}/root su {who} -s /bin/sh -c 'mkdir -p {folder}; cat >> {path}' << 'THE END OF IT'\n{text}\nTHE END OF IT"
        ));
    }

    /// Runs a script as root in the root.
    pub fn prepare(&mut self, script: &str) -> String {
        let place = self.folder.path().display().to_string();
        self.host(&format!(
            "cat > {place}/root/run/prepare << 'THE END OF IT'\nexport PATH=/usr/sbin:/usr/bin:/sbin:/bin DEBIAN_FRONTEND=noninteractive\nset -e\n{script}\nTHE END OF IT\nchroot {place}/root sh /run/prepare"
        ))
    }

    /// Boots the service manager.
    pub fn boot(&mut self) -> String {
        self.booted = true;
        self.prepare(include_str!("boot.sh"))
    }

    /// How the root is entered: from among the processes of the service manager, where it was booted.
    pub fn enter(&self) -> String {
        let root = format!("{}/root", self.folder.path().display());
        if self.booted {
            format!("chroot {root} nsenter -t $(cat {root}/run/init) -m -p -C -r")
        } else {
            format!("chroot {root}")
        }
    }

    /// Runs a script as root in the root, with the words of `prelude.sh`, among the processes of the service manager where there is one.
    pub fn situate(&mut self, script: &str) -> String {
        let (place, enter) = (self.folder.path().display().to_string(), self.enter());
        let (home, who, prelude) = (self.home(), self.who.clone(), include_str!("prelude.sh"));
        let more = if self.managers { include_str!("prelude-managers.sh") } else { "" };
        self.host(&format!(
            "cat > {place}/root/run/prepare << 'THE END OF IT'\nexport PATH=/usr/sbin:/usr/bin:/sbin:/bin DEBIAN_FRONTEND=noninteractive\nHOME_OF={home} WHO={who}\n{prelude}\n{more}\n{script}\nTHE END OF IT\n{enter} sh /run/prepare"
        ))
    }

    /// Lets the person sign in: from now on `terminal` opens terminals of that sign-in. `shell` is what runs in each.
    pub fn sign_in_at_desk(&mut self, shell: &str) {
        let (place, who, enter, desk) =
            (self.folder.path().display().to_string(), self.who.clone(), self.enter(), include_str!("desk.sh"));
        self.host(&format!(
            "cat > {place}/root/run/desk.sh << 'THE END OF IT'\n{desk}\nTHE END OF IT
            printf 'cd ~/project\nexport TERM=xterm\nexec %s\n' '{shell}' > {place}/root/run/terminal
            rm -f {place}/root/run/desk; mkfifo -m 666 {place}/root/run/desk; chmod 644 {place}/root/run/desk.sh {place}/root/run/terminal
            {enter} su -l {who} -c 'exec sh /run/desk.sh' > /dev/null 2>&1 < /dev/null & sleep 0.2"
        ));
    }

    /// Starts a shell of that sign-in in a terminal that was opened outside.
    pub fn start_in(&mut self, device: &str) {
        let (place, who) = (self.folder.path().display().to_string(), self.who.clone());
        self.host(&format!(
            "chown $(grep ^{who}: {place}/root/etc/passwd | cut -d: -f3) {device}; echo {device} > {place}/root/run/desk"
        ));
    }

    /// Writes as an editor does that the person, or with `rights` an administrator, has opened: a line of its own at the end. What went wrong, else nothing.
    pub fn edit(&mut self, path: &str, line: &str, number: Option<u64>, who: &str) -> String {
        let place = self.folder.path().display().to_string();
        let act = match number {
            Some(number) => format!("sed -i -e {number}r/run/line -e {number}d \"$0\""),
            None => {
                "f=\"$0\"; { [ ! -s \"$f\" ] || [ -z \"$(tail -c 1 \"$f\")\" ] || echo >> \"$f\"; } && cat /run/line >> \"$f\""
                    .to_owned()
            }
        };
        self.host(&format!(
            "cat > {place}/root/run/line << 'THE END OF IT'\n{line}\nTHE END OF IT
            chmod 644 {place}/root/run/line
            chroot {place}/root su {who} -s /bin/sh -c '{act}' '{path}'"
        ))
    }

    /// A text file of the root, where it is there.
    pub fn read(&self, path: &str) -> Option<String> {
        let place = self.folder.path().display();
        // Read by way of the process that has the mounts.
        std::fs::read_to_string(format!("/proc/{}/root{place}/root{path}", self.inside()?)).ok()
    }

    /// The shell in the namespaces, as this process knows it.
    fn inside(&self) -> Option<u32> {
        let id = self.shell.id();
        std::fs::read_to_string(format!("/proc/{id}/task/{id}/children")).ok()?.split_whitespace().next()?.parse().ok()
    }

    /// What comes of lines that the person types after a new sign-in, in the project's folder. They answer yes to whatever is asked.
    pub fn sign_in(&mut self, lines: &str) -> String {
        let (place, who, enter) = (self.folder.path().display().to_string(), self.who.clone(), self.enter());
        self.host(&format!(
            "cat > {place}/root/run/lines << 'THE END OF IT'\ncd ~/project\n{lines}\nTHE END OF IT\nchmod 644 {place}/root/run/lines
            yes | {enter} su -l {who} -c \"$(cat {place}/root/run/lines)\""
        ))
    }

    /// The same in a new terminal of the same sign-in, whose shell reads its startup file.
    pub fn new_shell(&mut self, shell: &str, lines: &str) -> String {
        let (place, who) = (self.folder.path().display().to_string(), self.who.clone());
        self.host(&format!(
            "printf 'cd ~/project\\n%s\\n' '{lines}' > {place}/root/run/lines; chmod 644 {place}/root/run/lines
            chroot {place}/root su -l {who} -c '{shell} -i /run/lines'"
        ))
    }
}

impl Drop for Root {
    fn drop(&mut self) {
        let _ = self.shell.kill();
        let _ = self.shell.wait();
    }
}
