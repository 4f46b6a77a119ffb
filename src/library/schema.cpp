#include "library/schema.h"

namespace jl
{

const std::vector<QStringList>& schemaSteps()
{
    static const std::vector<QStringList> steps{
        {
            "CREATE TABLE student (id INTEGER PRIMARY KEY, name TEXT NOT NULL, height REAL, foot_length "
            "REAL, level TEXT NOT NULL, limits TEXT NOT NULL DEFAULT '')",
            "CREATE TABLE clip (id INTEGER PRIMARY KEY, title TEXT NOT NULL, media TEXT NOT NULL, student "
            "INTEGER REFERENCES student(id) ON DELETE SET NULL, reference INTEGER NOT NULL DEFAULT 0, "
            "performer_height REAL, state INTEGER NOT NULL DEFAULT 0, message TEXT NOT NULL DEFAULT '', "
            "added TEXT NOT NULL)",
            "CREATE TABLE track (clip INTEGER PRIMARY KEY REFERENCES clip(id) ON DELETE CASCADE, model TEXT "
            "NOT NULL, made TEXT NOT NULL, data BLOB NOT NULL)",
            "CREATE TABLE review (id INTEGER PRIMARY KEY, clip INTEGER NOT NULL UNIQUE REFERENCES clip(id) "
            "ON DELETE CASCADE, reference INTEGER REFERENCES clip(id) ON DELETE SET NULL, form TEXT NOT "
            "NULL, school TEXT NOT NULL, made TEXT NOT NULL)",
            "CREATE TABLE decision (review INTEGER NOT NULL REFERENCES review(id) ON DELETE CASCADE, fault "
            "TEXT NOT NULL, decision INTEGER NOT NULL, made TEXT NOT NULL, PRIMARY KEY (review, fault))",
            "CREATE TABLE setting (key TEXT PRIMARY KEY, value TEXT NOT NULL)",
        },
        {
            // 2: limits that are judged by, choices with their reasons and words, causes as the instructor
            // sees them, and what a review found, for the next one
            "ALTER TABLE student ADD COLUMN body_limits TEXT NOT NULL DEFAULT '{}'",
            "ALTER TABLE decision ADD COLUMN reason TEXT NOT NULL DEFAULT ''",
            "ALTER TABLE decision ADD COLUMN cue TEXT NOT NULL DEFAULT ''",
            "ALTER TABLE decision ADD COLUMN due TEXT NOT NULL DEFAULT ''",
            "CREATE TABLE filing (review INTEGER NOT NULL REFERENCES review(id) ON DELETE CASCADE, fault "
            "TEXT NOT "
            "NULL, cause TEXT NOT NULL, made TEXT NOT NULL, PRIMARY KEY (review, fault))",
            "ALTER TABLE review ADD COLUMN record BLOB",
            "ALTER TABLE review ADD COLUMN yardstick TEXT NOT NULL DEFAULT 'reference'",
            "ALTER TABLE review ADD COLUMN second INTEGER REFERENCES clip(id) ON DELETE SET NULL",
        },
        {
            // 3: what the instructor knows of a clip: points put in place, lengths on the floor
            "ALTER TABLE clip ADD COLUMN known TEXT NOT NULL DEFAULT '{}'",
        },
        {
            // 4: the order in which the instructor puts the corrections of a slip, faults parted by spaces
            "ALTER TABLE review ADD COLUMN slip_order TEXT NOT NULL DEFAULT ''",
        },
        {
            // 5: what the instructor saw herself
            "CREATE TABLE own_finding (id INTEGER PRIMARY KEY, review INTEGER NOT NULL REFERENCES review(id) "
            "ON DELETE CASCADE, time REAL NOT NULL, title TEXT NOT NULL, cue TEXT NOT NULL, drill TEXT NOT "
            "NULL, measure TEXT NOT NULL DEFAULT '', made TEXT NOT NULL)",
        },
        {
            // 6: slips as they were sent; what the program makes of the review later does not change them
            "CREATE TABLE sent_slip (id INTEGER PRIMARY KEY, review INTEGER NOT NULL REFERENCES review(id) "
            "ON DELETE CASCADE, sent TEXT NOT NULL, way TEXT NOT NULL, words TEXT NOT NULL, page BLOB NOT "
            "NULL)",
        },
        {
            // 7: what a review from another instructor's bundle brought of its earlier lessons
            "ALTER TABLE review ADD COLUMN brought TEXT NOT NULL DEFAULT ''",
        },
    };
    return steps;
}

} // namespace jl
