-- The same questions that `setup-ready survey` answers. Of a machine that can be told by its id, the newest report counts.
CREATE OR REPLACE VIEW counting AS
SELECT f.* FROM finding AS f
JOIN (
    SELECT report FROM (
        SELECT report, row_number() OVER (PARTITION BY coalesce(machine, 'report ' || report) ORDER BY checked DESC, report DESC) AS place
        FROM (SELECT DISTINCT report, machine, checked FROM finding) AS reports
    ) AS placed WHERE place = 1
) AS newest USING (report);

-- How many machines come to what.
CREATE OR REPLACE VIEW outcomes AS
SELECT outcome, count(*) AS machines FROM (SELECT DISTINCT report, outcome FROM counting) AS reports GROUP BY outcome;

-- What stops most people, of those that were asked.
CREATE OR REPLACE VIEW stops AS
SELECT requirement, min(level) AS level,
       count(*) FILTER (WHERE verdict = 'unmet') AS unmet,
       count(*) FILTER (WHERE verdict = 'unknown') AS unknown,
       count(*) FILTER (WHERE verdict <> 'skipped') AS asked
FROM counting GROUP BY requirement;

-- Why.
CREATE OR REPLACE VIEW causes AS
SELECT requirement, verdict, cause, count(*) AS machines FROM counting WHERE verdict IN ('unmet', 'unknown') GROUP BY requirement, verdict, cause;

-- The same for each distribution; by system, role or architecture alike.
CREATE OR REPLACE VIEW stops_by_distro AS
SELECT coalesce(distro || coalesce(' ' || distro_version, ''), system, 'unknown') AS distro, requirement,
       count(*) FILTER (WHERE verdict = 'unmet') AS unmet, count(*) FILTER (WHERE verdict <> 'skipped') AS asked
FROM counting GROUP BY 1, 2;

-- Which versions are out there.
CREATE OR REPLACE VIEW versions AS
SELECT requirement, version, count(*) AS machines FROM counting WHERE version IS NOT NULL GROUP BY requirement, version;

-- Week by week (ISO 8601): each machine in each week in which it was looked at, by the newest report of that.
CREATE OR REPLACE VIEW weeks AS
SELECT week, count(*) AS machines, count(*) FILTER (WHERE outcome = 'ready') AS ready
FROM (
    SELECT week, outcome, row_number() OVER (PARTITION BY coalesce(machine, 'report ' || report), week ORDER BY checked DESC, report DESC) AS place
    FROM (SELECT DISTINCT report, machine, checked, outcome, to_char(checked AT TIME ZONE 'UTC', 'IYYY"-W"IW') AS week FROM finding) AS reports
) AS placed WHERE place = 1 GROUP BY week;

-- Which fixes were followed by the requirement being met, of machines that looked again.
CREATE OR REPLACE VIEW advised AS
SELECT requirement, cause, fix, count(*) FILTER (WHERE next_verdict = 'met') AS met_next, count(*) AS times
FROM (
    SELECT f.requirement, f.cause, f.fix, f.verdict,
           lead(f.verdict) OVER (PARTITION BY f.machine, f.requirement ORDER BY f.checked, f.report) AS next_verdict
    FROM finding AS f WHERE f.machine IS NOT NULL
) AS followed
WHERE verdict = 'unmet' AND fix IS NOT NULL AND next_verdict IS NOT NULL AND next_verdict <> 'skipped'
GROUP BY requirement, cause, fix;
