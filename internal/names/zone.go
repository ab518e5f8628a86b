package names

import (
	"errors"
	"strings"
	"time"
)

// Zone reads the name of a time zone of the IANA list, such as Europe/Berlin. What a
// machine calls its own, and files that are no zones, are not known: they would mean
// something else, or nothing, on another one.
func Zone(name string) (*time.Location, error) {
	unknown := errors.New("this time zone is not known: write it as Europe/Berlin")
	switch dir, _, _ := strings.Cut(name, "/"); dir {
	case "", "Local", "localtime", "posixrules", "posix", "right", "Factory":
		return nil, unknown
	}
	if name != "UTC" && !strings.HasPrefix(name, "Etc/") && strings.ToUpper(name[:1]) != name[:1] {
		return nil, unknown
	}
	at, err := time.LoadLocation(name)
	if err != nil {
		return nil, unknown
	}
	return at, nil
}
