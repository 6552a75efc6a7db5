#include "arvek/search/detail/move_order.hpp"

#include <algorithm>
#include <cstddef>

namespace arvek::detail {

void sort_rest(std::vector<OrderedMove>& order, std::size_t from) {
    std::sort(order.begin() + static_cast<std::ptrdiff_t>(from), order.end(),
              [](const OrderedMove& a, const OrderedMove& b) {
                  return a.value != b.value ? a.value > b.value : a.index < b.index;
              });
}

}  // namespace arvek::detail
