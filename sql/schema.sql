-- A row for each requirement of each report, as `setup-ready survey --format rows` writes them. Plain SQL, so that other engines that speak it take it.
CREATE TABLE IF NOT EXISTS finding (
    report         bigint NOT NULL,
    machine        text,
    checked        timestamptz NOT NULL,
    guide          text,
    system         text,
    distro         text,
    distro_version text,
    arch           text,
    role           text,
    outcome        text NOT NULL,
    requirement    text NOT NULL,
    kind           text NOT NULL,
    level          text NOT NULL,
    verdict        text NOT NULL,
    cause          text,
    version        text,
    found          text,
    fix            text,
    PRIMARY KEY (report, requirement)
);
-- Lines as they come; emptied after each load.
CREATE TABLE IF NOT EXISTS finding_line (line text NOT NULL);
