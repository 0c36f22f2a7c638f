//! Pure readers of what systems print: text in, observation out, so that every system's wording can be tested anywhere.

mod accounts;
mod alternatives;
mod cgroup;
mod cpu;
mod elf;
mod env_file;
mod expand;
mod file_kind;
mod git;
mod http_date;
mod keyed;
mod loader_cache;
mod locks;
mod macos;
mod manager;
mod memory;
mod mounts;
mod net;
mod os_release;
mod pe;
mod pe_imports;
mod pip_settings;
mod pkg_config;
mod process;
mod proxy;
mod python_marker;
mod python_notes;
mod record;
mod setting;
mod start;
mod startup_file;
mod systemctl;
mod unit;
mod windows;

pub use crate::pinned::{pinned, version_in};
pub use accounts::{group_name, group_names_of_ids, user_name};
pub use alternatives::alternatives;
pub use cgroup::{CgroupFolder, cgroup_folders, cpu_quota_v1, cpu_quota_v2, memory_limit};
pub use cpu::{count_online, cpuinfo_flags};
pub use elf::{ElfNeeds, elf_needs};
pub use env_file::{EnvEntry, env_entries, env_value, is_of_another_system};
pub use expand::expanded;
pub use file_kind::{HEAD_BYTES, file_kind};
pub use git::{branch_of_head, gitlinks, is_large_file_pointer, packed_ref, submodule_paths};
pub use http_date::http_date;
pub use keyed::keyed;
pub use loader_cache::loader_cache;
pub use locks::holder_of_lock;
pub use macos::{apfs_container, is_kept_back, launch_limit, lsof_holder, plist_text, proxy_of_scutil, user_shell, vm_stat};
pub use manager::{
    CandidateQuestion, PacmanPackage, apt_trial, brought_along, candidate, candidate_question, dnf_costs, dnf_trial, dnf5_trial,
    download_of_each, pacman_conflict, pacman_costs, pacman_installed, pacman_offers, pacman_refusal, provider_named,
    without_a_place, without_lists, zypper_costs, zypper_trial,
};
pub use memory::{meminfo, meminfo_of};
pub use mounts::{Mount, mount_of, windows_disk};
pub use net::{Socket, has_default_route, routes, sockets};
pub use os_release::{OsRelease, os_release};
pub use pe::{PeResources, opens_window, pe_resources, pe_version};
pub use pe_imports::pe_imports;
pub use pip_settings::{are_plain_pip_settings, is_plain_pip_setting};
pub use pkg_config::{pkg_config_requires, pkg_config_version};
pub use process::{is_in_ranges, started_as};
pub use proxy::proxy_for;
pub use python_notes::{NotedDistribution, needed_distributions, noted_distribution, paths_are_changed, plain_name};
pub use record::{debian_release, debian_stanza, debian_sum, imported_module, java_release, library_release};
pub use setting::{setting_number, setting_text};
pub use start::{Outcome, Place, Program, StartupConfig, StartupTrace, follow};
pub use startup_file::sets_variable;
pub use systemctl::systemd_service;
pub use unit::{unit_of_group, unit_of_listed, unit_of_sockets};
pub use windows::{open_command, proxy_of_settings, reserved_ports};

#[cfg(test)]
mod tests;
