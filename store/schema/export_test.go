package schema

import "io/fs"

// Files are the statements.
func Files() fs.FS { return migrations }
