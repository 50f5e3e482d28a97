"""Course: points, smoothing, curvature, ground, critical hills."""
