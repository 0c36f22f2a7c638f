//! Each reader on what people really write: what counts, what only looks like it, and what limits it.

use super::super::statements_of;
use rstest::rstest;

/// What a file says, without its name: `3 pinned tool go >= 1.22`.
fn said(path: &str, text: &str) -> Vec<String> {
    let line = |one: &setup_ready_core::statement::Statement| {
        let whole = one.to_string();
        let rest = whole.strip_prefix(&format!("{path}:")).unwrap_or(&whole).to_owned();
        rest.split_whitespace().collect::<Vec<_>>().join(" ")
    };
    statements_of(path, text).iter().map(line).collect()
}

#[rstest]
#[case::a_workspace(
    "[workspace]\nmembers = []\n[workspace.package]\nrust-version = \"1.80\"\n",
    "1 pinned tool cargo; 1 pinned tool cc if not windows; 4 pinned tool rustc >= 1.80"
)]
#[case::one_that_follows_its_workspace(
    "[package]\nname = \"a\"\nrust-version.workspace = true\n",
    "1 pinned tool cargo; 1 pinned tool cc if not windows"
)]
#[case::an_optional_builder(
    "[package]\nname = \"a\"\n[build-dependencies]\nprost-build = { version = \"1\", optional = true }\n",
    "1 pinned tool cargo; 1 pinned tool cc if not windows; 4 mentioned tool protoc"
)]
#[case::a_builder_that_is_only_bound(
    "[package]\nname = \"a\"\n[build-dependencies]\nbindgen = \"1\"\n",
    "1 pinned tool cargo; 1 pinned tool cc if not windows; 4 mentioned tool clang"
)]
#[case::neither_of_both("[profile.dev]\ndebug = 1\n", "")]
fn cargo(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("Cargo.toml", text).join("; "), wanted);
}

#[rstest]
#[case::by_number("[toolchain]\nchannel = \"1.78\"\n", "2 pinned tool rustc 1.78.*")]
#[case::the_newest("[toolchain]\nchannel = \"stable\"\n", "2 pinned tool rustc")]
#[case::of_a_day("[toolchain]\nchannel = \"nightly-2024-05-01\"\n", "2 pinned tool rustc")]
#[case::in_its_older_form("1.70.0\n", "1 pinned tool rustc = 1.70.0")]
#[case::without_a_channel("[toolchain]\ncomponents = []\n", "")]
fn rust_toolchains(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("rust-toolchain", text).join("; "), wanted);
}

#[rstest]
#[case::engines("{\"engines\": {\"node\": \"^18 || >=20\", \"electron\": \"1\"}}", "1 pinned tool node >= 18, < 19 || >= 20")]
#[case::any_version("{\"engines\": {\"node\": \"*\"}, \"scripts\": {\"a\": \"b\"}}", "1 pinned tool node")]
#[case::words_that_are_no_range("{\"engines\": {\"node\": \"lts/iron\"}}", "")]
#[case::its_own_installer("{\n\"packageManager\": \"yarn@4.1.0+sha224.ab\"\n}", "2 pinned tool yarn = 4.1.0")]
#[case::an_installer_that_is_none("{\"packageManager\": \"left@1\"}", "")]
#[case::native_parts("{\"gypfile\": true}", "1 pinned tool python3; 1 pinned tool make; 1 pinned tool c++")]
#[case::native_parts_that_come_ready_made(
    "{\"gypfile\": true, \"scripts\": {\"install\": \"prebuild-install || node-gyp rebuild\"}}",
    "1 used tool node; 1 used tool python3; 1 used tool make; 1 used tool c++"
)]
#[case::settings_of_an_editor_only("{\"prettier\": {}}", "")]
fn node(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("package.json", text).join("; "), wanted);
}

#[rstest]
#[case::compiled_by_a_backend(
    "[build-system]\nbuild-backend = \"scikit_build_core.build\"\n",
    "1 pinned tool python3; 2 pinned tool c++"
)]
#[case::compiled_from_rust(
    "[build-system]\nbuild-backend = \"maturin\"\n",
    "1 pinned tool python3; 2 pinned tool cargo; 2 pinned tool rustc; 2 pinned tool cc if not windows"
)]
#[case::plain(
    "[build-system]\nbuild-backend = \"hatchling.build\"\n[project]\nrequires-python = \">=3.9\"\n",
    "4 pinned tool python3 >= 3.9"
)]
#[case::of_another_tool("[tool.poetry.dependencies]\npython = \"^3.10\"\n", "2 pinned tool python3 >= 3.10, < 4")]
#[case::parts_in_c(
    "[build-system]\nrequires = [\"setuptools\", \"Cython>=3\"]\nbuild-backend = \"setuptools.build_meta\"\n",
    "1 pinned tool python3; 3 used tool cc"
)]
#[case::only_settings_of_tools("[tool.ruff]\nline-length = 100\n", "")]
fn python(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("pyproject.toml", text).join("; "), wanted);
}

#[rstest]
#[case::with_a_newer_toolchain("module a\ngo 1.21\ntoolchain go1.22.1\n", "2 pinned tool go >= 1.21")]
#[case::compiled_from_c(
    "module a\ngo 1.21\nrequire github.com/mattn/go-sqlite3 v1.14.0\n",
    "2 pinned tool go >= 1.21; 3 mentioned tool cc"
)]
#[case::a_module_called_go("module go.example/go\n", "")]
fn go(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("go.mod", text).join("; "), wanted);
}

#[rstest]
#[case::no_languages("project(a NONE)\n", "")]
#[case::with_a_description("project(a VERSION 1 DESCRIPTION \"C CXX\" LANGUAGES Fortran)\n", "1 pinned tool gfortran")]
#[case::both_by_default("project(a VERSION 1)\n", "1 pinned tool cc; 1 pinned tool c++")]
#[case::over_several_lines("find_package(\n  ZLIB\n  1.2\n  REQUIRED)\n", "1 pinned library zlib >= 1.2")]
#[case::with_components(
    "find_package(Python3 COMPONENTS Interpreter Development REQUIRED)\n",
    "1 pinned tool python3; 1 pinned headers python"
)]
#[case::only_to_compile("find_package(Python3 REQUIRED COMPONENTS Development)\n", "1 pinned headers python")]
#[case::inside_a_function("function(f)\nfind_package(ZLIB REQUIRED)\nendfunction()\n", "2 mentioned library zlib")]
#[case::on_one_system("if(UNIX AND NOT APPLE)\nfind_package(X11 REQUIRED)\nendif()\n", "2 pinned library x11 if linux")]
#[case::on_the_others("if(WIN32)\nelse()\nfind_package(ZLIB REQUIRED)\nendif()\n", "3 pinned library zlib if not windows")]
#[case::after_two_systems(
    "if(WIN32)\nelseif(APPLE)\nelse()\nfind_package(X11 REQUIRED)\nendif()\n",
    "4 pinned library x11 if linux"
)]
#[case::within_an_option_within_a_system(
    "if(APPLE)\nif(WITH_X)\nfind_package(X11 REQUIRED)\nendif()\nendif()\n",
    "3 mentioned library x11 only where WITH_X"
)]
#[case::after_an_option(
    "if(A)\nfind_package(ZLIB REQUIRED)\nelse()\nfind_package(PNG REQUIRED)\nendif()\n",
    "2 mentioned library zlib only where A; 4 mentioned library libpng only where not A"
)]
#[case::a_name_in_a_variable("find_package(${X} REQUIRED)\nfind_program(Y ${Z})\n", "")]
#[case::of_several_one_is_enough(
    "pkg_search_module(A REQUIRED libusb-1.0 libusb)\n",
    "1 mentioned library libusb-1.0; 1 mentioned library libusb"
)]
#[case::in_a_text("message(\"find_package(ZLIB REQUIRED)\")\n", "")]
#[case::in_a_long_comment("#[=[ find_package(ZLIB REQUIRED)\n]] ]=]\nfind_package(PNG REQUIRED)\n", "3 pinned library libpng")]
#[case::an_escaped_mark("add_definitions(-DA=\\\"b\\\")\nfind_package(ZLIB REQUIRED)\n", "2 pinned library zlib")]
#[case::that_nobody_knows("find_package(Barnacle 3 REQUIRED)\n", "")]
fn cmake(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("CMakeLists.txt", text).join("; "), wanted);
}

#[rstest]
#[case::a_range("x = dependency('a', version: ['>= 1.2', '< 3'])\n", "1 pinned library a >= 1.2, < 3")]
#[case::that_may_be_missing("dependency('a', required: false)\n", "1 mentioned library a")]
#[case::with_an_option("dependency('a', required: get_option('b'))\n", "1 mentioned library a only where get_option('b')")]
#[case::with_a_copy_of_its_own("dependency('a', fallback: ['a', 'dep'])\n", "1 mentioned library a")]
#[case::in_a_long_text("x = '''\ndependency('a')\n'''\ndependency('b')\n", "4 pinned library b")]
#[case::of_a_subproject("a.get_variable('b').dependency('c')\n", "")]
#[case::not_on_one_system("if host_machine.system() != 'windows'\ndependency('a')\nendif\n", "2 pinned library a if not windows")]
#[case::on_neither_of_two(
    "if host_machine.system() == 'darwin'\nelse\ndependency('a')\nendif\n",
    "3 pinned library a if not macos"
)]
#[case::in_a_loop("foreach x : ['a']\n  dependency('b')\nendforeach\n", "2 pinned library b")]
#[case::what_the_compiler_brings("dependency('threads')\ndependency('openmp')\n", "")]
#[case::a_program_of_its_own("find_program('tools/make-it.py')\nfind_program('perl')\n", "2 pinned tool perl")]
#[case::after_a_mark_within_a_text("x = 'it\\'s'\ndependency('a')\n", "2 pinned library a")]
fn meson(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("meson.build", text).join("; "), wanted);
}

#[rstest]
#[case::several_libraries("PKG_CHECK_MODULES([A],[b >= 1.2 c])\n", "1 pinned library b >= 1.2; 1 pinned library c")]
#[case::one_that_may_be_missing("PKG_CHECK_MODULES([A],[b],[],[AC_MSG_WARN([no])])\n", "1 mentioned library b")]
#[case::in_a_comment("dnl PKG_CHECK_MODULES([A],[b])\n# AC_PREREQ([2.7])\n", "")]
#[case::under_a_test(
    "if test x; then\n  AC_PROG_CXX\nfi\nAC_PROG_CC\n",
    "2 mentioned tool c++ only where test x; 4 pinned tool cc"
)]
#[case::under_a_macro("AS_IF([test y],\n [AC_PROG_CXX])\n", "2 mentioned tool c++ only where test y")]
#[case::its_own_tools(
    "AC_PREREQ([2.69])\nAM_INIT_AUTOMAKE([foreign 1.14])\nLT_INIT\n",
    "1 pinned tool autoconf >= 2.69; 2 pinned tool automake >= 1.14; 3 pinned tool libtoolize"
)]
#[case::an_open_bracket("PKG_CHECK_MODULES([A],[b\n", "")]
fn autoconf(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("configure.ac", text).join("; "), wanted);
}

#[rstest]
#[case::of_several_stages(
    "FROM node:20 AS a\nFROM debian:12\nRUN apt-get install -y curl\n",
    "1 used tool node 20.*; 3 mentioned tool curl only in the last stage"
)]
#[case::an_argument("ARG V=3.12\nFROM python:${V}-slim\n", "2 used tool python3 3.12.*")]
#[case::an_argument_without_a_value("ARG V\nFROM python:${V}\n", "2 used tool python3")]
#[case::from_a_registry("FROM registry.example:5000/library/golang:1.22@sha256:ab\n", "1 used tool go 1.22.*")]
#[case::a_list_of_words("FROM debian\nRUN [\"apt-get\", \"install\", \"-y\", \"cmake\"]\n", "2 used tool cmake")]
#[case::with_a_mount("FROM debian\nRUN --mount=type=cache,target=/x apt-get install -y cmake\n", "2 used tool cmake")]
#[case::a_script_of_its_own(
    "FROM debian\nRUN <<EOF\napt-get install -y cmake\nEOF\nRUN apt-get install -y ninja-build\n",
    "3 used tool cmake; 5 used tool ninja"
)]
#[case::what_pip_brings("FROM debian\nRUN pip install meson && meson setup x\n", "")]
fn containers(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("Dockerfile", text).join("; "), wanted);
}

#[rstest]
#[case::any_free_port("services:\n  a:\n    ports: ['80']\n", "1 used container-engine")]
#[case::a_span(
    "services:\n  a:\n    ports: ['7000-7001:80-81']\n",
    "1 used container-engine; 3 used port 7000; 3 used port 7001"
)]
#[case::on_one_address("services:\n  a:\n    ports: ['[::1]:7000:80']\n", "1 used container-engine; 3 used port 7000")]
#[case::a_variable_without_a_value("services:\n  a:\n    ports: ['${P}:80']\n", "1 used container-engine")]
#[case::out_of_range("services:\n  a:\n    ports: ['70000:80']\n", "1 used container-engine")]
#[case::nothing("version: '3'\n", "")]
fn composed_containers(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("compose.yaml", text).join("; "), wanted);
}

#[rstest]
#[case::a_matrix(
    "jobs:\n  a:\n    strategy:\n      matrix:\n        v: [18, 20]\n    steps:\n      - uses: actions/setup-node@v4\n        with:\n          node-version: ${{ matrix.v }}\n",
    "5 used tool node 18.* || 20.*"
)]
#[case::a_version_in_a_file(
    "jobs:\n  a:\n    steps:\n      - uses: actions/setup-go@v5\n        with: {go-version-file: go.mod}\n",
    "4 used tool go"
)]
#[case::the_newest(
    "jobs:\n  a:\n    steps:\n      - uses: actions/setup-go@v5\n        with: {go-version: stable}\n",
    "5 used tool go"
)]
#[case::a_condition_of_a_step(
    "jobs:\n  a:\n    steps:\n      - if: ${{ runner.os == 'macOS' }}\n        run: brew install cmake\n",
    "5 used tool cmake if macos"
)]
#[case::another_condition(
    "jobs:\n  a:\n    steps:\n      - if: failure()\n        run: make\n",
    "5 mentioned tool make only where failure()"
)]
#[case::a_job_for_releases(
    "jobs:\n  publish-docs:\n    steps:\n      - run: make\n",
    "4 mentioned tool make only in the job publish-docs"
)]
#[case::a_container("jobs:\n  a:\n    container: golang:1.22\n", "3 used tool go 1.22.*")]
#[case::a_toolchain_by_its_name(
    "jobs:\n  a:\n    steps:\n      - uses: dtolnay/rust-toolchain@1.78\n      - uses: dtolnay/rust-toolchain@stable\n",
    "4 used tool rustc 1.78.*; 5 used tool rustc"
)]
#[case::no_jobs("on: push\n", "")]
#[case::odd_shapes("jobs:\n  a: []\n  b:\n    steps: {run: make}\n  c:\n    steps: [make, {run: [1]}]\n", "")]
fn workflows(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said(".github/workflows/ci.yml", text).join("; "), wanted);
}

#[rstest]
#[case::in_a_fence("```sh\nsudo apt install cmake\n```\n", "2 mentioned tool cmake")]
#[case::without_a_language("```\n$ brew install cmake\n```\n", "2 mentioned tool cmake")]
#[case::in_another_language("```python\nimport cmake\n```\n", "")]
#[case::outside("sudo apt install cmake\n", "")]
#[case::a_longer_fence("````sh\n```\nmake\n````\nninja\n", "3 mentioned tool make")]
#[case::output("```console\nmake: *** No rule\n```\n", "")]
#[case::a_comment("```sh\n# apt is what Debian has\n```\n", "")]
fn prose(#[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said("README.md", text).join("; "), wanted);
}

#[rstest]
#[case("go.work", "go 1.22\n\nuse ./a\n", "1 pinned tool go >= 1.22")]
#[case(".tool-versions", "python 3.12.1\nrust nightly\n", "1 pinned tool python3 = 3.12.1; 2 pinned tool rustc")]
#[case("global.json", "{\"sdk\": {\"version\": \"8.0.100\", \"rollForward\": \"disable\"}}", "1 pinned tool dotnet = 8.0.100")]
#[case("global.json", "{\"sdk\": {\"version\": \"8.0.155\"}}", "1 pinned tool dotnet >= 8.0.155, < 8.0.200")]
#[case("a.csproj", "<Project><PropertyGroup><TargetFramework>net48</TargetFramework></PropertyGroup></Project>", "")]
#[case(
    "pom.xml",
    "<project><properties><maven.compiler.source>1.8</maven.compiler.source></properties></project>",
    "1 pinned tool javac; 1 pinned tool mvn; 1 pinned tool javac >= 8"
)]
#[case(
    "build.gradle",
    "sourceCompatibility = '1.8'\n// JavaVersion.VERSION_21\n",
    "1 used tool gradle; 1 pinned tool javac >= 8"
)]
#[case("Gemfile", "ruby '>= 3.1', '< 4'\n", "1 used tool bundle; 1 pinned tool ruby >= 3.1, < 4")]
#[case("Gemfile", "ruby file: '.ruby-version'\n", "1 used tool bundle")]
#[case(
    "composer.json",
    "{\"require\": {\"php\": \"~8.1|^7.4\"}}",
    "1 used tool composer; 1 pinned tool php >= 8.1, < 9 || >= 7.4, < 8"
)]
#[case("mix.exs", "elixir: \"~> 1.14 or ~> 1.16.2\",\n", "1 pinned tool elixir >= 1.14, < 2 || >= 1.16.2, < 1.17")]
#[case(".gitattributes", "# filter=lfs\n*.txt text\n", "")]
#[case(
    ".env.example",
    "A=1\nexport B_TOKEN=x\n1C=2\nD-E=3\nF=http://u:p@h/\n",
    "1 mentioned variable A; 2 mentioned variable B_TOKEN secret; 5 mentioned variable F secret"
)]
#[case("scripts/a.sh", "if ! type -p jq; then exit; fi\nfor x in a; do command -v \"$x\"; done\n", "1 mentioned tool jq")]
#[case(
    "Makefile",
    "X = $(shell git describe)\na:\n\t@-jq . x\n\techo cmake\n",
    "1 mentioned tool make; 1 mentioned tool git; 3 mentioned tool jq"
)]
#[case("setup.cfg", "[metadata]\npython_requires = >=2\n[options]\npython_requires = >=3.8\n", "4 pinned tool python3 >= 3.8")]
#[case("Pipfile", "[requires]\npython_version = \"3.11\"\n", "2 pinned tool python3 3.11.*")]
#[case("binding.gyp", "'<!@(pkg-config cairo --libs)',\n'<!(node -e x)',\n", "1 mentioned library cairo")]
fn others(#[case] path: &str, #[case] text: &str, #[case] wanted: &str) {
    assert_eq!(said(path, text).join("; "), wanted);
}

#[rstest]
#[case("CMakeLists.txt")]
#[case("meson.build")]
#[case("configure.ac")]
#[case("Dockerfile")]
#[case("Makefile")]
#[case("README.md")]
fn a_large_text_of_anything_ends_soon(#[case] path: &str) {
    // A repetition that would be looked through again and again, were nothing bounded.
    for part in [
        "if(",
        "$(",
        "#[[",
        "'''",
        "AS_IF([",
        "RUN <<EOF\n",
        "\"",
        "\\",
        "```\n",
        "if ",
        "dependency(",
        "if(A)\nfind_package(ZLIB REQUIRED)\n",
        "elseif(A)\nfind_package(ZLIB REQUIRED)\n",
        "if a\ndependency('b')\n",
        "elif a\ndependency('b')\n",
        "if a\nAC_PROG_CC\n",
        "PKG_CHECK_MODULES([A],[",
    ] {
        let text = part.repeat(50_000 / part.len());
        assert!(statements_of(path, &text).len() <= text.len());
    }
}
