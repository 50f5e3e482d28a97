"""Service: hours, wear, risk, torque; the only physics that may know of dates. Each law comes with its issue."""
