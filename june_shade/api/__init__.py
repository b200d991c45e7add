"""The HTTP interface: thin routes over plans/, Pydantic at the border, problem details for every error."""
