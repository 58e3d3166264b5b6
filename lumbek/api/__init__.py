"""The HTTP interface. Routers are thin; OpenAPI is the contract."""
