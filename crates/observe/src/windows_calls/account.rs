//! The account of this process, the account database, and whose a file is.

use super::{narrow, wide};
use std::io::{Error, Result};
use std::os::windows::io::{AsRawHandle, FromRawHandle, OwnedHandle};
use std::path::Path;
use std::ptr::{null, null_mut};
use windows_sys::Win32::Foundation::{GENERIC_ALL, GENERIC_READ, GENERIC_WRITE, LocalFree};
use windows_sys::Win32::NetworkManagement::NetManagement::{
    LG_INCLUDE_INDIRECT, LOCALGROUP_USERS_INFO_0, MAX_PREFERRED_LENGTH, NetApiBufferFree, NetUserGetLocalGroups,
};
use windows_sys::Win32::Security::Authorization::{GetNamedSecurityInfoW, SE_FILE_OBJECT};
use windows_sys::Win32::Security::{
    ACCESS_ALLOWED_ACE, ACL, DACL_SECURITY_INFORMATION, EqualSid, GetAce, GetTokenInformation, INHERIT_ONLY_ACE, IsWellKnownSid,
    LookupAccountNameW, LookupAccountSidW, OWNER_SECURITY_INFORMATION, PSID, SID_AND_ATTRIBUTES, TOKEN_ELEVATION, TOKEN_GROUPS,
    TOKEN_INFORMATION_CLASS, TOKEN_OWNER, TOKEN_QUERY, TOKEN_USER, TokenElevation, TokenGroups, TokenOwner, TokenUser,
    WELL_KNOWN_SID_TYPE, WinBuiltinAdministratorsSid, WinBuiltinHyperVAdminsSid, WinBuiltinPowerUsersSid,
    WinBuiltinRemoteDesktopUsersSid, WinBuiltinUsersSid, WinCreatorOwnerRightsSid, WinCreatorOwnerSid, WinLocalSystemSid,
};
use windows_sys::Win32::System::Threading::{GetCurrentProcess, OpenProcessToken};

/// A group's right counts (winnt.h, `SE_GROUP_ENABLED`).
const ENABLED: u32 = 4;

/// An entry that gives rights (winnt.h, `ACCESS_ALLOWED_ACE_TYPE`).
const ALLOWS: u32 = 0;
/// To read data, to write it, to add to it (winnt.h, `FILE_READ_DATA`, `FILE_WRITE_DATA`, `FILE_APPEND_DATA`), and all of it in general.
const READ_OR_CHANGE: u32 = 0x7 | GENERIC_READ | GENERIC_WRITE | GENERIC_ALL;
/// Who may do everything anyway.
const TRUSTED: [WELL_KNOWN_SID_TYPE; 4] =
    [WinBuiltinAdministratorsSid, WinLocalSystemSid, WinCreatorOwnerSid, WinCreatorOwnerRightsSid];

/// Groups of the system are called otherwise in every language: these are the names that guides use.
const USUAL_NAMES: [(WELL_KNOWN_SID_TYPE, &str); 5] = [
    (WinBuiltinAdministratorsSid, "Administrators"),
    (WinBuiltinUsersSid, "Users"),
    (WinBuiltinPowerUsersSid, "Power Users"),
    (WinBuiltinRemoteDesktopUsersSid, "Remote Desktop Users"),
    (WinBuiltinHyperVAdminsSid, "Hyper-V Administrators"),
];

/// The name that an account has here.
///
/// # Safety
/// The pointer must be a security identifier.
unsafe fn name_of(account: PSID) -> Option<String> {
    let (mut name, mut domain) = ([0_u16; 256], [0_u16; 256]);
    let (mut name_room, mut domain_room, mut kind) = (256, 256, 0);
    // SAFETY: the caller promises the identifier; the lengths that are told are those of the arrays.
    let found = unsafe {
        let (name, domain) = (name.as_mut_ptr(), domain.as_mut_ptr());
        LookupAccountSidW(null(), account, name, &raw mut name_room, domain, &raw mut domain_room, &raw mut kind)
    };
    (found != 0).then(|| narrow(&name))
}

/// The English name of a group of the system's own.
///
/// # Safety
/// The pointer must be a security identifier.
unsafe fn usual_name(account: PSID) -> Option<String> {
    // SAFETY: the caller promises it.
    let is = |kind: WELL_KNOWN_SID_TYPE| unsafe { IsWellKnownSid(account, kind) } != 0;
    USUAL_NAMES.iter().find(|(kind, _)| is(*kind)).map(|(_, name)| (*name).to_owned())
}

/// What this process's token holds of a class, in a buffer that is aligned for every structure.
fn token(class: TOKEN_INFORMATION_CLASS) -> Result<Vec<u64>> {
    let mut handle = null_mut();
    // SAFETY: the pseudo handle is always valid; the handle that comes back is closed by its owner.
    let handle = unsafe {
        if OpenProcessToken(GetCurrentProcess(), TOKEN_QUERY, &raw mut handle) == 0 {
            return Err(Error::last_os_error());
        }
        OwnedHandle::from_raw_handle(handle)
    };
    let mut needed = 0;
    // SAFETY: without room the call only tells how much it needs.
    unsafe { GetTokenInformation(handle.as_raw_handle(), class, null_mut(), 0, &raw mut needed) };
    let mut buffer = vec![0_u64; usize::try_from(needed).unwrap_or(0).div_ceil(8).max(1)];
    // SAFETY: the buffer has at least the length that is told.
    let done = unsafe { GetTokenInformation(handle.as_raw_handle(), class, buffer.as_mut_ptr().cast(), needed, &raw mut needed) };
    if done == 0 { Err(Error::last_os_error()) } else { Ok(buffer) }
}

/// Whether this process may do what an administrator may.
///
/// # Errors
/// The system's.
pub(crate) fn is_elevated() -> Result<bool> {
    let buffer = token(TokenElevation)?;
    // SAFETY: for this class the system has written this structure; the buffer is aligned and long enough for it.
    Ok(unsafe { buffer.as_ptr().cast::<TOKEN_ELEVATION>().read() }.TokenIsElevated != 0)
}

/// The groups of this process: those in force by name, and whether the administrators are among them, in force or not.
///
/// # Errors
/// The system's.
pub(crate) fn groups() -> Result<(Vec<String>, bool)> {
    let buffer = token(TokenGroups)?;
    let (mut names, mut admin) = (Vec::new(), false);
    // SAFETY: for this class the system has written this structure, with as many entries as it says; their pointers lead into the same buffer,
    // which lives until the end.
    let entries: &[SID_AND_ATTRIBUTES] = unsafe {
        let groups = buffer.as_ptr().cast::<TOKEN_GROUPS>();
        let count = usize::try_from((*groups).GroupCount).unwrap_or(0);
        std::slice::from_raw_parts((&raw const (*groups).Groups).cast(), count)
    };
    for entry in entries {
        // SAFETY: the pointer is a security identifier of the system's.
        admin |= unsafe { IsWellKnownSid(entry.Sid, WinBuiltinAdministratorsSid) } != 0;
        if entry.Attributes & ENABLED == 0 {
            continue;
        }
        // SAFETY: as above.
        let found = unsafe { name_of(entry.Sid) };
        // Sign-in sessions have no name.
        // SAFETY: as above.
        let usual = unsafe { usual_name(entry.Sid) }.filter(|usual| found.as_ref() != Some(usual));
        names.extend(found.into_iter().chain(usual));
    }
    Ok((names, admin))
}

/// Who this process is, in the form that the account database takes: `MACHINE\\name`.
///
/// # Errors
/// The system's.
pub(crate) fn account_name() -> Result<String> {
    let buffer = token(TokenUser)?;
    let (mut name, mut domain) = ([0_u16; 256], [0_u16; 256]);
    let (mut name_room, mut domain_room, mut kind) = (256, 256, 0);
    // SAFETY: for this class the system has written this structure; its pointer leads into the same buffer, and the lengths that are told are
    // those of the arrays.
    let found = unsafe {
        let user = buffer.as_ptr().cast::<TOKEN_USER>().read().User.Sid;
        let (name, domain) = (name.as_mut_ptr(), domain.as_mut_ptr());
        LookupAccountSidW(null(), user, name, &raw mut name_room, domain, &raw mut domain_room, &raw mut kind)
    };
    if found == 0 { Err(Error::last_os_error()) } else { Ok(format!("{}\\{}", narrow(&domain), narrow(&name))) }
}

/// The groups of this machine that the account database gives a user, directly or by way of others.
///
/// # Errors
/// The system's.
pub(crate) fn database_groups(user: &str) -> Result<Vec<String>> {
    let user = wide(user.as_ref());
    let (mut buffer, mut count, mut all) = (null_mut(), 0, 0);
    // SAFETY: the name ends with a zero; the buffer that comes back is the system's, and is given back below.
    let status = unsafe {
        NetUserGetLocalGroups(
            null(),
            user.as_ptr(),
            0,
            LG_INCLUDE_INDIRECT,
            &raw mut buffer,
            MAX_PREFERRED_LENGTH,
            &raw mut count,
            &raw mut all,
        )
    };
    if status != 0 {
        return Err(Error::from_raw_os_error(i32::try_from(status).unwrap_or(-1)));
    }
    if buffer.is_null() {
        return Ok(Vec::new());
    }
    let rows = usize::try_from(count).unwrap_or(0);
    // SAFETY: the system has written so many of these structures, whose names end with a zero; nothing of it is kept.
    unsafe {
        let row = |index: usize| {
            let at = buffer.add(index * size_of::<LOCALGROUP_USERS_INFO_0>());
            at.cast::<LOCALGROUP_USERS_INFO_0>().read_unaligned()
        };
        let names = (0..rows).map(|index| text(row(index).lgrui0_name)).collect();
        NetApiBufferFree(buffer.cast());
        Ok(names)
    }
}

/// A text of the system's.
///
/// # Safety
/// It must end with a zero.
unsafe fn text(start: *const u16) -> String {
    let mut units = Vec::new();
    // SAFETY: the caller promises the zero, and nothing is read behind it.
    unsafe {
        let mut at = start;
        while !at.is_null() && *at != 0 {
            units.push(*at);
            at = at.add(1);
        }
    }
    String::from_utf16_lossy(&units)
}

/// Whose a file or folder is: whether this user's, and its owner's name where there is one.
///
/// # Errors
/// The system's.
pub(crate) fn owner(path: &Path) -> Result<(bool, Option<String>)> {
    let (user, maker) = (token(TokenUser)?, token(TokenOwner)?);
    let name = wide(path.as_os_str());
    let (mut owner, mut descriptor): (PSID, _) = (null_mut(), null_mut());
    // SAFETY: the name ends with a zero; what is not asked for may be null, and the descriptor that comes back is given back below.
    let status = unsafe {
        let (owner, descriptor) = (&raw mut owner, &raw mut descriptor);
        let (nothing, kind) = (null_mut(), SE_FILE_OBJECT);
        GetNamedSecurityInfoW(name.as_ptr(), kind, OWNER_SECURITY_INFORMATION, owner, nothing, null_mut(), null_mut(), descriptor)
    };
    if status != 0 {
        return Err(Error::from_raw_os_error(i32::try_from(status).unwrap_or(-1)));
    }
    // SAFETY: the owner leads into the descriptor, which lives until it is given back; the token's buffers hold these structures.
    unsafe {
        let own = user.as_ptr().cast::<TOKEN_USER>().read().User.Sid;
        // What an administrator makes belongs to the group of administrators.
        let made = maker.as_ptr().cast::<TOKEN_OWNER>().read().Owner;
        let mine = !owner.is_null() && [own, made].iter().any(|one| EqualSid(owner, *one) != 0);
        let known = (mine, if owner.is_null() { None } else { name_of(owner) });
        LocalFree(descriptor.cast());
        Ok(known)
    }
}

/// Those beside this user, the system and its administrators whom the access list of a file or folder lets read or change it.
///
/// # Errors
/// The system's.
pub(crate) fn open_to(path: &Path) -> Result<Vec<String>> {
    let user = token(TokenUser)?;
    let name = wide(path.as_os_str());
    let (mut list, mut descriptor): (*mut ACL, _) = (null_mut(), null_mut());
    // SAFETY: as in `owner`.
    let status = unsafe {
        let (list, descriptor, nothing) = (&raw mut list, &raw mut descriptor, null_mut());
        GetNamedSecurityInfoW(
            name.as_ptr(),
            SE_FILE_OBJECT,
            DACL_SECURITY_INFORMATION,
            nothing,
            null_mut(),
            list,
            null_mut(),
            descriptor,
        )
    };
    if status != 0 {
        return Err(Error::from_raw_os_error(i32::try_from(status).unwrap_or(-1)));
    }
    // SAFETY: the list leads into the descriptor, which lives until it is given back; the token's buffer holds this structure. Every entry begins
    // with the same header, and one that allows is followed by its mask and the identifier.
    unsafe {
        let own = user.as_ptr().cast::<TOKEN_USER>().read().User.Sid;
        let mut others = Vec::new();
        if list.is_null() {
            // Without a list everybody may do everything.
            others.push("everybody".to_owned());
        }
        let count = if list.is_null() { 0 } else { u32::from((*list).AceCount) };
        for index in 0..count {
            let mut entry = null_mut();
            if GetAce(list, index, &raw mut entry) == 0 {
                continue;
            }
            let allowed = entry.cast::<ACCESS_ALLOWED_ACE>();
            let header = (*allowed).Header;
            let counts = u32::from(header.AceType) == ALLOWS && u32::from(header.AceFlags) & INHERIT_ONLY_ACE == 0;
            let account: PSID = (&raw mut (*allowed).SidStart).cast();
            let trusted = |kind| IsWellKnownSid(account, kind) != 0;
            if counts
                && (*allowed).Mask & READ_OR_CHANGE != 0
                && EqualSid(account, own) == 0
                && !TRUSTED.iter().any(|kind| trusted(*kind))
            {
                others.push(name_of(account).unwrap_or_else(|| "somebody without a name".to_owned()));
            }
        }
        LocalFree(descriptor.cast());
        others.sort();
        others.dedup();
        Ok(others)
    }
}

/// Whether the account database knows a user or a group of this name.
pub(crate) fn has_account(name: &str) -> bool {
    let (name, mut identifier, mut domain) = (wide(name.as_ref()), [0_u64; 16], [0_u16; 256]);
    let (mut room, mut domain_room, mut kind) = (128, 256, 0);
    // SAFETY: the name ends with a zero; the lengths that are told are those of the arrays.
    unsafe {
        let identifier = identifier.as_mut_ptr().cast();
        LookupAccountNameW(
            null(),
            name.as_ptr(),
            identifier,
            &raw mut room,
            domain.as_mut_ptr(),
            &raw mut domain_room,
            &raw mut kind,
        ) != 0
    }
}
