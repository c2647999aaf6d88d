package sqlite

// InReports is the condition that an attempt t is part of summaries and statistics: the settings of what was sent may switch that off, and
// what does not compare is in none.
const InReports = `t.apart = 0 AND t.sitting_id NOT IN (SELECT apart.id FROM sitting apart JOIN distribution o ON o.id = apart.distribution_id WHERE o.in_reports = 0)`
