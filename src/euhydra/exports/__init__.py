"""A garden in open formats that other programs read: tables as CSV, the plan as DXF."""
