#include "arvek/opponent/thinking.hpp"

#include <sys/mman.h>
#include <ucontext.h>
#include <unistd.h>

#include <cassert>
#include <cstdint>
#include <new>

// The sanitizers must be told of a change of stacks.
#if defined(__SANITIZE_ADDRESS__)
#define ARVEK_ADDRESS_SANITIZER
#elif defined(__has_feature)
#if __has_feature(address_sanitizer)
#define ARVEK_ADDRESS_SANITIZER
#endif
#endif
#ifdef ARVEK_ADDRESS_SANITIZER
#include <sanitizer/common_interface_defs.h>
#endif
#if defined(__has_feature)
#if __has_feature(thread_sanitizer)
#define ARVEK_THREAD_SANITIZER
#include <sanitizer/tsan_interface.h>
#endif
#endif

namespace arvek::detail {

namespace {

constexpr std::size_t stack_bytes = std::size_t{16} << 20;  // memory only for what is used of it

}  // namespace

struct Resumable::State {
    std::function<void()> work;
    ucontext_t outside{}, inside{};
    void* memory = nullptr;
    bool ended = false;
#ifdef ARVEK_ADDRESS_SANITIZER
    void* fake_outside = nullptr;
    void* fake_inside = nullptr;
    const void* outside_stack = nullptr;
    std::size_t outside_size = 0;
#endif
#ifdef ARVEK_THREAD_SANITIZER
    void* fiber_outside = nullptr;
    void* fiber_inside = nullptr;
#endif

    /// A context can only be given integers: the address goes in two halves.
    static void enter(unsigned high, unsigned low) {
        auto* state = reinterpret_cast<State*>(static_cast<std::uintptr_t>(high) << 32 | low);
        state->arrived_inside();
        state->work();
        state->ended = true;
        state->leave(true);
    }

    void arrived_inside() {
#ifdef ARVEK_ADDRESS_SANITIZER
        __sanitizer_finish_switch_fiber(fake_inside, &outside_stack, &outside_size);
#endif
    }

    void leave([[maybe_unused]] bool for_good) {
#ifdef ARVEK_ADDRESS_SANITIZER
        __sanitizer_start_switch_fiber(for_good ? nullptr : &fake_inside, outside_stack, outside_size);
#endif
#ifdef ARVEK_THREAD_SANITIZER
        __tsan_switch_to_fiber(fiber_outside, 0);
#endif
        ::swapcontext(&inside, &outside);
        arrived_inside();
    }
};

Resumable::Resumable(std::function<void()> work) : state_(std::make_unique<State>()) {
    State& state = *state_;
    state.work = std::move(work);
    const auto page = static_cast<std::size_t>(::sysconf(_SC_PAGESIZE));
    void* memory = ::mmap(nullptr, stack_bytes, PROT_READ | PROT_WRITE,
                          MAP_PRIVATE | MAP_ANONYMOUS | MAP_NORESERVE | MAP_STACK, -1, 0);
    if (memory == MAP_FAILED) throw std::bad_alloc();
    ::mprotect(memory, page, PROT_NONE);  // what runs over ends at once
    state.memory = memory;
    ::getcontext(&state.inside);
    state.inside.uc_stack.ss_sp = memory;
    state.inside.uc_stack.ss_size = stack_bytes;
    state.inside.uc_link = nullptr;
    const auto address = reinterpret_cast<std::uintptr_t>(&state);
    ::makecontext(&state.inside, reinterpret_cast<void (*)()>(&State::enter), 2, static_cast<unsigned>(address >> 32),
                  static_cast<unsigned>(address));
#ifdef ARVEK_THREAD_SANITIZER
    state.fiber_inside = __tsan_create_fiber(0);
#endif
}

Resumable::~Resumable() {
#ifdef ARVEK_THREAD_SANITIZER
    __tsan_destroy_fiber(state_->fiber_inside);
#endif
    ::munmap(state_->memory, stack_bytes);
}

void Resumable::go_on() {
    State& state = *state_;
    assert(!state.ended);
#ifdef ARVEK_ADDRESS_SANITIZER
    __sanitizer_start_switch_fiber(&state.fake_outside, state.memory, stack_bytes);
#endif
#ifdef ARVEK_THREAD_SANITIZER
    state.fiber_outside = __tsan_get_current_fiber();
    __tsan_switch_to_fiber(state.fiber_inside, 0);
#endif
    ::swapcontext(&state.outside, &state.inside);
#ifdef ARVEK_ADDRESS_SANITIZER
    __sanitizer_finish_switch_fiber(state.fake_outside, nullptr, nullptr);
#endif
}

void Resumable::pause() { state_->leave(false); }

bool Resumable::has_ended() const { return state_->ended; }

}  // namespace arvek::detail
