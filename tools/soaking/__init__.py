"""The long runs that `make test` has no time for."""
