// The reference of the survey bench: ponds by Priority-flood on a bilinear grid, compiled. Prints the ms of all runs.
#include <algorithm>
#include <chrono>
#include <cmath>
#include <cstdio>
#include <random>
#include <vector>

struct Cell {
  float z;
  int at;
  bool operator<(const Cell& other) const { return z > other.z; }
};

int main() {
  const int wide = 200, high = 120, count = wide * high, runs = 500, columns = 9, rows = 6;
  std::mt19937 random(7);
  std::normal_distribution<float> scatter(0, 0.4f);
  std::vector<float> shots(columns * rows), z(count), level(count);
  std::vector<unsigned char> seen(count);
  std::vector<Cell> heap;
  heap.reserve(count);
  for (int j = 0; j < rows; j++)
    for (int i = 0; i < columns; i++)
      shots[j * columns + i] = 0.0208f * 7.5f * std::hypot(i * (wide - 1.f) / (columns - 1) - wide / 2, j * (high - 1.f) / (rows - 1) - high / 2);
  shots[columns + 6] -= 3;
  const int drain = high / 2 * wide + wide / 2;
  double deepest = 0;
  const auto start = std::chrono::steady_clock::now();
  for (int run = 0; run < runs; run++) {
    std::vector<float> s = shots;
    for (auto& v : s) v += scatter(random);
    for (int y = 0; y < high; y++)
      for (int x = 0; x < wide; x++) {
        const float gx = x * (columns - 1.f) / (wide - 1), gy = y * (rows - 1.f) / (high - 1);
        const int i = std::min<int>(gx, columns - 2), j = std::min<int>(gy, rows - 2);
        const float u = gx - i, v = gy - j;
        const float* c = &s[j * columns + i];
        z[y * wide + x] = (1 - u) * (1 - v) * c[0] + u * (1 - v) * c[1] + (1 - u) * v * c[columns] + u * v * c[columns + 1];
      }
    std::fill(seen.begin(), seen.end(), 0);
    heap.clear();
    level[drain] = z[drain];
    seen[drain] = 1;
    heap.push_back({z[drain], drain});
    float deep = 0;
    while (!heap.empty()) {
      std::pop_heap(heap.begin(), heap.end());
      const Cell here = heap.back();
      heap.pop_back();
      const int cx = here.at % wide, cy = here.at / wide;
      for (int b = -1; b <= 1; b++)
        for (int a = -1; a <= 1; a++) {
          const int x = cx + a, y = cy + b, k = y * wide + x;
          if ((!a && !b) || x < 0 || y < 0 || x >= wide || y >= high || seen[k]) continue;
          seen[k] = 1;
          level[k] = std::max(z[k], here.z);
          deep = std::max(deep, level[k] - z[k]);
          heap.push_back({level[k], k});
          std::push_heap(heap.begin(), heap.end());
        }
    }
    deepest += deep;
  }
  const double ms = std::chrono::duration<double, std::milli>(std::chrono::steady_clock::now() - start).count();
  std::printf("%.3f %.3f\n", ms, deepest / runs);
}
