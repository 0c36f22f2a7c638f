//! What may harm.

use super::context::{Context, Told};
use super::correction::line_after;
use super::{Correction, Remark, Replacement, Rule};
use crate::guide::{Requirement, Subject};
use crate::prelude::*;

pub(super) fn read(context: &Context<'_>, remarks: &mut Vec<Remark>) {
    for (requirement, number, told) in context.commands() {
        command(context, requirement, number, &told, remarks);
    }
    for (_, requirement) in context.requirements() {
        if let Subject::Reach(reach) = &requirement.subject
            && is_plain(&reach.url)
        {
            let at = context.at(requirement, "reach");
            remarks
                .push(Remark::of(Rule::PlainHttp, at, format!("{} is asked by plain HTTP", reach.url)).about(&*requirement.id));
        }
        if let Subject::Variable(variable) = &requirement.subject
            && !variable.secret
            && speaks_of_a_secret(&variable.name)
        {
            let at = context.at(requirement, "variable");
            let mut remark =
                Remark::of(Rule::SecretUnmarked, at.clone(), format!("{} looks like the name of a secret", variable.name))
                    .about(&*requirement.id);
            remark.correction = line_after(context.text, &at).map(|(end, indent)| {
                let text = format!("\n{indent}secret = true");
                Correction::new("mark it with `secret = true`", vec![Replacement { span: end..end, text }])
            });
            remarks.push(remark);
        }
    }
}

/// Whether an address goes over the network unprotected: not one of this machine or of its own network.
fn is_plain(text: &str) -> bool {
    let Some(at) = text.find("http://") else { return false };
    let host: String =
        text.get(at + 7..).unwrap_or_default().chars().take_while(|c| c.is_ascii_alphanumeric() || ".-_".contains(*c)).collect();
    // Names of a network of one's own (RFC 6761, RFC 6762, and what is kept for use inside).
    let within = host.rsplit('.').next().is_some_and(|last| ["test", "local", "internal", "localhost"].contains(&last));
    let own = within || host.starts_with("127.");
    !own && !host.is_empty()
}

/// Whether the name of a variable speaks of a secret.
pub(super) fn speaks_of_a_secret(name: &str) -> bool {
    let upper = name.to_ascii_uppercase();
    let ends =
        ["_TOKEN", "_SECRET", "_PASSWORD", "_PASSWD", "_PASSPHRASE", "_API_KEY", "_ACCESS_KEY", "_PRIVATE_KEY", "_CREDENTIALS"];
    let whole = ["TOKEN", "SECRET", "PASSWORD", "API_KEY", "APIKEY", "PASSPHRASE"];
    whole.contains(&upper.as_str()) || ends.iter().any(|end| upper.ends_with(end))
}

/// Options and commands that switch off what protects a person.
const OFF: [&str; 22] = [
    "--insecure",
    "--no-check-certificate",
    "--no-gpg-check",
    "--nogpgcheck",
    "--no-gpg-checks",
    "--allow-unauthenticated",
    "--force-yes",
    "--allow-untrusted",
    "--disable-gatekeeper",
    "--master-disable",
    "--trusted-host",
    "--no-verify-ssl",
    "strict-ssl=false",
    "strict-ssl false",
    "http.sslVerify=false",
    "http.sslVerify false",
    "NODE_TLS_REJECT_UNAUTHORIZED=0",
    "setenforce 0",
    "Set-MpPreference",
    "ExecutionPolicy Bypass",
    "ExecutionPolicy Unrestricted",
    "com.apple.quarantine",
];

fn command(context: &Context<'_>, requirement: &Requirement, number: usize, told: &Told<'_>, remarks: &mut Vec<Remark>) {
    let text = told.text;
    let words: Vec<&str> = text.split_whitespace().collect();
    let mut tell = |rule: Rule, message: String| {
        let at = told.span.clone();
        remarks.push(Remark::of(rule, at, message).about(&*requirement.id));
    };
    let downloads =
        ["curl ", "wget ", "iwr ", "Invoke-WebRequest ", "irm ", "Invoke-RestMethod "].iter().any(|one| text.contains(one));
    let shells =
        ["sh", "bash", "zsh", "python", "python3", "perl", "ruby", "node", "iex", "Invoke-Expression", "powershell", "pwsh"];
    let piped = text.split('|').skip(1).any(|part| {
        let mut rest = part.split_whitespace().filter(|word| !["sudo", "-E", "env"].contains(word));
        rest.next().is_some_and(|program| shells.contains(&program.rsplit('/').next().unwrap_or(program)))
    });
    let within = ["<(curl", "<(wget", "$(curl", "$(wget", "`curl", "`wget"].iter().any(|one| text.contains(one));
    if downloads && (piped || within || text.contains("iex")) {
        tell(Rule::DownloadIntoShell, "what is downloaded here is run unread".to_owned());
    }
    if is_plain(text) {
        tell(Rule::PlainHttp, "this fetches by plain HTTP".to_owned());
    }
    let short = words.first().is_some_and(|program| *program == "curl")
        && words.iter().any(|word| word.starts_with('-') && !word.starts_with("--") && word.contains('k'));
    if let Some(off) = OFF.iter().find(|off| text.contains(**off)).copied().or(short.then_some("-k")) {
        tell(Rule::CheckSwitchedOff, format!("`{off}` switches off a check"));
    } else if words.windows(2).any(|two| two == ["chmod", "777"]) || text.contains("chmod -R 777") {
        tell(Rule::CheckSwitchedOff, "everybody may change what is made `777`".to_owned());
    }
    let removes = words.iter().position(|word| *word == "rm").is_some_and(|at| {
        let rest = words.get(at + 1..).unwrap_or_default();
        let deep = rest.iter().any(|word| word.starts_with('-') && word.contains(['r', 'R']));
        let wide = |word: &&&str| {
            ["/", "~", "~/", "*", "./*", ".", "..", "$HOME", "\"$HOME\"", "/*", "~/*"].contains(*word)
                || word.starts_with("/usr")
                || word.starts_with("/etc")
        };
        deep && rest.iter().any(|word| wide(&word))
    });
    if removes
        || text.contains("git clean -fdx")
        || text.contains("git clean -xfd")
        || text.contains("Remove-Item -Recurse -Force ~")
    {
        tell(Rule::RemovesWidely, "this removes more than one thing".to_owned());
    }
    admin(context, requirement, number, told, remarks);
}

fn admin(context: &Context<'_>, requirement: &Requirement, number: usize, told: &Told<'_>, remarks: &mut Vec<Remark>) {
    let Some(fix) = requirement.fixes.get(number).filter(|fix| !fix.admin) else { return };
    let Some(bare) = told.text.strip_prefix("sudo ").or_else(|| told.text.strip_prefix("doas ")) else { return };
    let message = format!("fix {} of `{}` needs admin rights, and does not say so", number + 1, requirement.id);
    let mut remark = Remark::of(Rule::AdminUnsaid, told.span.clone(), message).about(&*requirement.id);
    // Certain only where it is the one command, alone on its line, and nothing in it needs marks of its own.
    let simple = fix.run.len() == 1 && !bare.starts_with('-') && !bare.contains(['"', '\\', '\'']);
    let at = context.fix_at(requirement, number, "run");
    if let Some((end, indent)) = line_after(context.text, &at).filter(|_| simple && at == told.span) {
        let command = Replacement { span: told.span.clone(), text: format!("\"{bare}\"") };
        let key = Replacement { span: end..end, text: format!("\n{indent}admin = true") };
        remark.correction = Some(Correction::new("write the command without sudo, and `admin = true`", vec![command, key]));
    }
    remarks.push(remark);
}
