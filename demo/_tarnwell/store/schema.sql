-- The tables of the store, for when call-outs are kept in a database rather than
-- in a file.

CREATE TABLE valleys (
    name      TEXT PRIMARY KEY,
    latitude  REAL NOT NULL,
    longitude REAL NOT NULL
);

CREATE TABLE teams (
    name       TEXT PRIMARY KEY,
    valley     TEXT NOT NULL REFERENCES valleys (name),
    free_since TIMESTAMP
);

CREATE TABLE skills (
    team  TEXT NOT NULL REFERENCES teams (name),
    skill TEXT NOT NULL CHECK (skill IN ('rope', 'ski', 'medic', 'dog')),
    PRIMARY KEY (team, skill)
);

CREATE TABLE callouts (
    id      INTEGER PRIMARY KEY,
    valley  TEXT NOT NULL REFERENCES valleys (name),
    team    TEXT REFERENCES teams (name),
    status  TEXT NOT NULL DEFAULT 'open',
    opened  TIMESTAMP NOT NULL,
    closed  TIMESTAMP,
    note    TEXT
);

CREATE INDEX callouts_by_status ON callouts (status, opened);

-- Those that still wait for a team, the longest first.
CREATE VIEW waiting AS
SELECT c.id, c.valley, c.opened
FROM callouts c
WHERE c.team IS NULL AND c.closed IS NULL
ORDER BY c.opened;

-- The teams that could go to a valley now.
CREATE FUNCTION free_teams(wanted TEXT) RETURNS SETOF teams AS $$
    SELECT t.*
    FROM teams t
    WHERE t.valley = wanted
      AND t.free_since < now() - interval '45 minutes'
    ORDER BY t.free_since;
$$ LANGUAGE SQL STABLE;

-- Takes back the team of a call-out that is over.
CREATE PROCEDURE close_callout(callout INTEGER)
LANGUAGE SQL
AS $$
    UPDATE teams SET free_since = now() WHERE name = (SELECT team FROM callouts WHERE id = callout);
    UPDATE callouts SET closed = now(), status = 'closed' WHERE id = callout;
$$;
