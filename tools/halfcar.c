/* The ride's kernel (src/lynxwort/core/physics/halfcar/kernel.py) once more in C, for make bench only: how far the compiled Python is from a plain loop. */
#include <math.h>

enum { MS, INERTIA, MF, MR, MP, A, B, PEG, BAR, G, F_TRAVEL, F_FRICTION, S_STROKE, S_FRICTION, V0, FB_LENGTH, FB, FB2, FB_C, FM, FM_C, SB_LENGTH, SB,
       SB2, SB_C, SM, SM_C, FT, FT_C, ST, ST_C, KTF, KTR, CT, LEG, LEG_C, SEAT_AFTER, SEAT, SEAT_C, ARM, ARM_C, ARM_REST, ENGLISH, ENGLISH_MOST,
       W_TRAVEL, TOP_SPEED, RIM_FROM, RIM, LEAN };

typedef struct { const double *p, *ground, *springs, *dampers; long cells, points, speeds; double speed, grid; } World;

static double look(const double *row, long points, double span, double x) {
    double place = x / span * (points - 1);
    long k = (long)place;
    if (k > points - 2) k = points - 2;
    return row[k] + (row[k + 1] - row[k]) * (place - k);
}

static double valve(const double *in, long speeds, double top, double v) {
    const double *row = v < 0 ? in + speeds : in;
    double place = sqrt(fabs(v) / top) * (speeds - 1);
    long k = (long)place;
    if (k > speeds - 2) k = speeds - 2;
    double force = row[k] + (row[k + 1] - row[k]) * (place - k);
    return v < 0 ? -force : force;
}

static double stops(double s, double v, double travel, const double *b, double metal, double metal_c, double top, double top_c) {
    double force = 0, x = s - (travel - b[0]);
    if (x > 0) force += x * (b[1] + b[2] * x) + b[3] * fmin(x / b[0], 1) * fmax(v, 0);
    if (s > travel) force += fmax(metal * (s - travel) + metal_c * v, 0);
    if (s < 0) force += fmin(top * s + top_c * v, 0);
    return force;
}

static void ground_at(const World *w, double x, double *height, double *slope) {
    double place = x / w->grid;
    long k = (long)place;
    *slope = 0;
    if (place < 1) { *height = w->ground[0]; return; }
    if (k > w->cells - 3) { *height = w->ground[w->cells - 1]; return; }
    double t = place - k, a = w->ground[k - 1], b = w->ground[k], c = w->ground[k + 1], d = w->ground[k + 2];
    double u = 2 * a - 5 * b + 4 * c - d, q = 3 * (b - c) + d - a;
    *height = b + 0.5 * t * (c - a + t * (u + t * q));
    *slope = 0.5 * (c - a + t * (2 * u + t * 3 * q)) / w->grid;
}

static double tyre(const World *w, double rate, double x, double z, double v) {
    double height, slope;
    ground_at(w, x, &height, &slope);
    double push = height - z;
    if (push <= 0) return 0;
    return fmax(rate * push + w->p[RIM] * fmax(push - w->p[RIM_FROM], 0) + w->p[CT] * (slope * w->speed - v), 0);
}

static void slopes(const World *w, const double *y, double time, double *dy, double *seen) {
    const double *p = w->p;
    long n = w->points;
    double s = (y[2] - y[0] - p[A] * y[1]) * p[LEAN], v = (y[7] - y[5] - p[A] * y[6]) * p[LEAN];
    double rear = y[3] - y[0] + p[B] * y[1], rear_v = y[8] - y[5] + p[B] * y[6];
    double spring = look(w->springs, n, p[F_TRAVEL], fmin(fmax(s, 0), p[F_TRAVEL] * 1.02));
    double fork = p[LEAN] * (spring + valve(w->dampers, w->speeds, p[TOP_SPEED], v) + p[F_FRICTION] * v / sqrt(v * v + p[V0] * p[V0])
                             + stops(s, v, p[F_TRAVEL], p + FB_LENGTH, p[FM], p[FM_C], p[FT], p[FT_C]));
    double inside = fmin(fmax(rear, 0), p[W_TRAVEL]), place = inside / p[W_TRAVEL] * (n - 1);
    long k = (long)place;
    if (k > n - 2) k = n - 2;
    const double *strokes = w->springs + 2 * n, *ratios = w->springs + 3 * n;
    double t = place - k, bend = ratios[k + 1] - ratios[k], ratio = ratios[k] + bend * t;
    double q = strokes[k] + p[W_TRAVEL] / (n - 1) * t * (ratios[k] + 0.5 * bend * t) + (rear - inside) * ratio, u = rear_v * ratio;
    spring = look(w->springs + n, n, p[S_STROKE], fmin(fmax(q, 0), p[S_STROKE] * 1.02));
    double shock = ratio * (spring + valve(w->dampers + 2 * w->speeds, w->speeds, p[TOP_SPEED], u) + p[S_FRICTION] * u / sqrt(u * u + p[V0] * p[V0])
                            + stops(q, u, p[S_STROKE], p + SB_LENGTH, p[SM], p[SM_C], p[ST], p[ST_C]));
    double x = time * w->speed, front_tyre = tyre(w, p[KTF], x + p[A] + p[B], y[2], y[7]), rear_tyre = tyre(w, p[KTR], x, y[3], y[8]);
    double legs = y[0] + p[PEG] * y[1] - y[4], legs_v = y[5] + p[PEG] * y[6] - y[9], leg = 0;
    if (legs > 0) leg = fmax(p[LEG] * legs + p[LEG_C] * legs_v, 0);
    if (legs > p[SEAT_AFTER]) leg += fmax(p[SEAT] * (legs - p[SEAT_AFTER]) + p[SEAT_C] * legs_v, 0);
    double arm = p[ARM] * (y[0] + p[BAR] * y[1] - y[4] - p[ARM_REST]) + p[ARM_C] * (y[5] + p[BAR] * y[6] - y[9]);
    double english = fmin(fmax(p[ENGLISH] * y[6], -p[ENGLISH_MOST]), p[ENGLISH_MOST]);
    for (int j = 0; j < 5; j++) dy[j] = y[5 + j];
    dy[5] = (fork + shock - leg - arm) / p[MS] - p[G];
    dy[6] = (p[A] * fork - p[B] * shock - p[PEG] * leg - p[BAR] * arm - english) / p[INERTIA];
    dy[7] = (front_tyre - fork) / p[MF] - p[G];
    dy[8] = (rear_tyre - shock) / p[MR] - p[G];
    dy[9] = (leg + arm) / p[MP] - p[G];
    seen[0] = s; seen[1] = v; seen[2] = q; seen[3] = u; seen[4] = front_tyre; seen[5] = rear_tyre; seen[6] = dy[5] + p[PEG] * dy[6]; seen[7] = dy[9];
}

/* A row of ten states and eight more after every step. */
void ride_over(const double *start, const double *p, double speed, double dt, long steps, double grid, const double *ground, long cells,
               const double *springs, long points, const double *dampers, long speeds, double *out) {
    World w = {p, ground, springs, dampers, cells, points, speeds, speed, grid};
    double y[10], k1[10], k2[10], k3[10], k4[10], o[10], seen[8], rest[8];
    for (int j = 0; j < 10; j++) y[j] = start[j];
    for (long i = 0; i < steps; i++) {
        double t = i * dt;
        slopes(&w, y, t, k1, seen);
        for (int j = 0; j < 10; j++) out[18 * i + j] = y[j];
        for (int j = 0; j < 8; j++) out[18 * i + 10 + j] = seen[j];
        for (int j = 0; j < 10; j++) o[j] = y[j] + 0.5 * dt * k1[j];
        slopes(&w, o, t + 0.5 * dt, k2, rest);
        for (int j = 0; j < 10; j++) o[j] = y[j] + 0.5 * dt * k2[j];
        slopes(&w, o, t + 0.5 * dt, k3, rest);
        for (int j = 0; j < 10; j++) o[j] = y[j] + dt * k3[j];
        slopes(&w, o, t + dt, k4, rest);
        for (int j = 0; j < 10; j++) y[j] += dt / 6 * (k1[j] + 2 * k2[j] + 2 * k3[j] + k4[j]);
    }
}
