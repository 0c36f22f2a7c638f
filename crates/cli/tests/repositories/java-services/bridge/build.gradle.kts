plugins { application }
// JavaLanguageVersion.of(8)
java {
    toolchain {
        languageVersion = JavaLanguageVersion.of(21)
    }
}
